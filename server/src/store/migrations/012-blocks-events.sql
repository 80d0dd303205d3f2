-- Nets laid from block to block, plastic rail joints of zones, and the events of a control bus: as wanted, and as taught.
ALTER TABLE railway ADD COLUMN commons_12 TEXT NOT NULL DEFAULT 'bus' CHECK (commons_12 IN ('star', 'chain', 'bus', 'blocks'));
ALTER TABLE railway ADD COLUMN feeders_12 TEXT NOT NULL DEFAULT 'chain' CHECK (feeders_12 IN ('star', 'chain', 'bus', 'blocks'));
UPDATE railway SET commons_12 = commons, feeders_12 = feeders;
ALTER TABLE railway DROP COLUMN commons;
ALTER TABLE railway DROP COLUMN feeders;
ALTER TABLE railway RENAME COLUMN commons_12 TO commons;
ALTER TABLE railway RENAME COLUMN feeders_12 TO feeders;
ALTER TABLE zone ADD COLUMN commons_12 TEXT CHECK (commons_12 IN ('star', 'chain', 'bus', 'blocks'));
UPDATE zone SET commons_12 = commons;
ALTER TABLE zone DROP COLUMN commons;
ALTER TABLE zone RENAME COLUMN commons_12 TO commons;
ALTER TABLE zone ADD COLUMN plastic_joints INTEGER NOT NULL DEFAULT 0 CHECK (plastic_joints BETWEEN 0 AND 99);

ALTER TABLE type ADD COLUMN switches TEXT CHECK (json_valid(switches));
UPDATE type SET settings = (SELECT json_group_array(json_set(value, '$.number', '')) FROM json_each(type.settings));

CREATE TABLE laying_12 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  terminal   TEXT NOT NULL,
  topology   TEXT NOT NULL CHECK (topology IN ('star', 'chain', 'bus', 'blocks')),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO laying_12 SELECT railway_id, id, device_id, terminal, topology FROM laying;
DROP TABLE laying;
ALTER TABLE laying_12 RENAME TO laying;

CREATE TABLE strip_12 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  kind       TEXT NOT NULL CHECK (kind IN ('screws', 'splice', 'block')),
  place      TEXT NOT NULL CHECK (place IN ('panel', 'layout')),
  ways       INTEGER NOT NULL CHECK (ways BETWEEN 1 AND 64),
  pin_amps   REAL CHECK (pin_amps > 0),
  zone_id    TEXT,
  run_metres REAL CHECK (run_metres > 0),
  front      INTEGER NOT NULL CHECK (front IN (0, 1)),
  kept       INTEGER NOT NULL CHECK (kept IN (0, 1)),
  fixed_at   TEXT,
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label),
  FOREIGN KEY (railway_id, zone_id) REFERENCES zone (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO strip_12
SELECT railway_id, id, label, kind, place, ways, pin_amps, zone_id, run_metres, front, kept, fixed_at, note FROM strip;
DROP TABLE strip;
ALTER TABLE strip_12 RENAME TO strip;
CREATE INDEX strip_zone ON strip (railway_id, zone_id);

CREATE TABLE event (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  node_id    TEXT,
  number     INTEGER NOT NULL CHECK (number BETWEEN 1 AND 65535),
  asks       INTEGER NOT NULL CHECK (asks IN (0, 1)),
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label),
  FOREIGN KEY (railway_id, node_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX event_node ON event (railway_id, node_id);

CREATE TABLE producer (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  event_id   TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER NOT NULL CHECK (way BETWEEN 1 AND 64),
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, device_id, way),
  FOREIGN KEY (railway_id, event_id) REFERENCES event (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX producer_event ON producer (railway_id, event_id);

CREATE TABLE consumer (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  event_id   TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER NOT NULL CHECK (way BETWEEN 1 AND 64),
  action     TEXT NOT NULL CHECK (action IN ('acts', 'inverted', 'on', 'off')),
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, event_id, device_id, way),
  FOREIGN KEY (railway_id, event_id) REFERENCES event (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX consumer_device ON consumer (railway_id, device_id);

CREATE TABLE taught (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER NOT NULL CHECK (way BETWEEN 1 AND 64),
  node       INTEGER NOT NULL CHECK (node BETWEEN 0 AND 65535),
  number     INTEGER NOT NULL CHECK (number BETWEEN 1 AND 65535),
  action     TEXT CHECK (action IN ('acts', 'inverted', 'on', 'off')),
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, device_id, way, node, number),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(each.value, '$.kind') = 'zone' AND json_extract(each.value, '$.op') = 'put'
        THEN json_set(each.value, '$.value.plasticJoints', 0)
      WHEN json_extract(each.value, '$.kind') = 'type' AND json_extract(each.value, '$.op') = 'put'
        THEN json_set(each.value, '$.value.switches', NULL, '$.value.settings',
          json((SELECT json_group_array(json_set(value, '$.number', ''))
                FROM json_each(coalesce(json_extract(each.value, '$.value.settings'), '[]')))))
      ELSE each.value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses)) AS each) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
