-- Blocks, sensors, signals, feeders and boards as marks on the line, outlines of the baseboard, scale and trains.
ALTER TABLE railway ADD COLUMN scale REAL NOT NULL DEFAULT 87.1 CHECK (scale BETWEEN 1 AND 500);
ALTER TABLE railway ADD COLUMN train_kmh REAL NOT NULL DEFAULT 60 CHECK (train_kmh BETWEEN 1 AND 500);
ALTER TABLE railway ADD COLUMN train_metres REAL NOT NULL DEFAULT 1.5 CHECK (train_metres BETWEEN 0.05 AND 100);
ALTER TABLE spot ADD COLUMN power_routing INTEGER NOT NULL DEFAULT 0 CHECK (power_routing IN (0, 1));

-- A check of a table cannot be changed: the table is made anew.
CREATE TABLE mark_new (
  railway_id    TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id            TEXT NOT NULL,
  x             INTEGER NOT NULL,
  y             INTEGER NOT NULL,
  what          TEXT NOT NULL
    CHECK (what IN ('end', 'gap', 'slip', 'block', 'sensor', 'signal', 'feeder', 'stand')),
  name          TEXT,
  buffer        INTEGER CHECK (buffer IN (0, 1)),
  to_x          INTEGER,
  to_y          INTEGER,
  rails         TEXT CHECK (rails IN ('both', 'left', 'right')),
  slip          TEXT CHECK (slip IN ('single', 'double')),
  other         INTEGER CHECK (other IN (0, 1)),
  device_id     TEXT,
  left_gets     TEXT CHECK (left_gets IN ('J', 'K')),
  along_metres  REAL,
  across_metres REAL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO mark_new (railway_id, id, x, y, what, name, buffer, to_x, to_y, rails, slip, other)
  SELECT railway_id, id, x, y, what, name, buffer, to_x, to_y, rails, slip, other FROM mark;
DROP TABLE mark;
ALTER TABLE mark_new RENAME TO mark;
CREATE INDEX mark_device ON mark (railway_id, device_id);

CREATE TABLE outline (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  what       TEXT NOT NULL CHECK (what IN ('baseboard', 'lift-out', 'trunk')),
  points     TEXT NOT NULL CHECK (json_valid(points)),
  PRIMARY KEY (railway_id, id)
) STRICT, WITHOUT ROWID;

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(each.value, '$.op') = 'railway'
        THEN json_set(each.value, '$.value.scale', 87.1, '$.value.trainKmh', 60, '$.value.trainMetres', 1.5)
      WHEN json_extract(each.value, '$.kind') = 'spot' AND json_extract(each.value, '$.op') = 'put'
        THEN json_set(each.value, '$.value.powerRouting', json('false'))
      ELSE each.value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses)) AS each) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
