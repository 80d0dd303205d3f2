-- Where strips are under the layout and which zone they serve, tails of motors, and what the railway says of both.
ALTER TABLE railway ADD COLUMN strips_at TEXT NOT NULL DEFAULT 'boards' CHECK (strips_at IN ('boards', 'zones'));
ALTER TABLE railway ADD COLUMN reach_metres REAL NOT NULL DEFAULT 2 CHECK (reach_metres > 0);
ALTER TABLE railway ADD COLUMN cores_by TEXT NOT NULL DEFAULT 'number' CHECK (cores_by IN ('number', 'role'));
ALTER TABLE railway ADD COLUMN motor_tails TEXT NOT NULL DEFAULT 'wires' CHECK (motor_tails IN ('wires', 'one', 'two'));
ALTER TABLE railway ADD COLUMN tail_cores INTEGER NOT NULL DEFAULT 8 CHECK (tail_cores BETWEEN 2 AND 16);

CREATE TABLE strip_10 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  kind       TEXT NOT NULL CHECK (kind IN ('screws', 'splice')),
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
INSERT INTO strip_10
SELECT railway_id, id, label, kind, place, ways, pin_amps, NULL, NULL, 0, kept, fixed_at, note FROM strip;
DROP TABLE strip;
ALTER TABLE strip_10 RENAME TO strip;
CREATE INDEX strip_zone ON strip (railway_id, zone_id);

CREATE TABLE cable_10 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  cores      INTEGER NOT NULL CHECK (cores BETWEEN 2 AND 64),
  gauge      TEXT,
  metres     REAL,
  colours    TEXT CHECK (colours IN ('signal', 'pairs', 'ribbon')),
  tail       INTEGER NOT NULL CHECK (tail IN (0, 1)),
  zone_id    TEXT,
  kept       INTEGER NOT NULL CHECK (kept IN (0, 1)),
  laid_at    TEXT,
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label),
  FOREIGN KEY (railway_id, zone_id) REFERENCES zone (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO cable_10
SELECT railway_id, id, label, cores, gauge, metres, colours, 0, NULL, kept, laid_at, note FROM cable;
DROP TABLE cable;
ALTER TABLE cable_10 RENAME TO cable;
CREATE INDEX cable_zone ON cable (railway_id, zone_id);

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.op') = 'railway' THEN json_set(value, '$.value.stripsAt', 'boards',
        '$.value.reachMetres', 2, '$.value.coresBy', 'number', '$.value.motorTails', 'wires', '$.value.tailCores', 8)
      WHEN json_extract(value, '$.kind') = 'strip' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.zoneId', NULL, '$.value.runMetres', NULL, '$.value.front', json('false'))
      WHEN json_extract(value, '$.kind') = 'cable' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.tail', json('false'), '$.value.zoneId', NULL)
      ELSE value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses))) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
