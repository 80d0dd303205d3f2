-- The line diagram: stretches of track, where turnouts lie, and marks on the track.
ALTER TABLE railway ADD COLUMN step_metres REAL NOT NULL DEFAULT 0.1 CHECK (step_metres BETWEEN 0.005 AND 5);

CREATE TABLE track (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  points     TEXT NOT NULL CHECK (json_valid(points)),
  hidden     INTEGER NOT NULL CHECK (hidden IN (0, 1)),
  PRIMARY KEY (railway_id, id)
) STRICT, WITHOUT ROWID;

CREATE TABLE spot (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  turnout_id TEXT NOT NULL,
  x          INTEGER NOT NULL,
  y          INTEGER NOT NULL,
  second     INTEGER NOT NULL CHECK (second IN (0, 1)),
  turned     INTEGER NOT NULL CHECK (turned IN (0, 1)),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX spot_turnout ON spot (railway_id, turnout_id);

CREATE TABLE mark (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  x          INTEGER NOT NULL,
  y          INTEGER NOT NULL,
  what       TEXT NOT NULL CHECK (what IN ('end', 'gap', 'slip')),
  name       TEXT,
  buffer     INTEGER CHECK (buffer IN (0, 1)),
  to_x       INTEGER,
  to_y       INTEGER,
  rails      TEXT CHECK (rails IN ('both', 'left', 'right')),
  slip       TEXT CHECK (slip IN ('single', 'double')),
  other      INTEGER CHECK (other IN (0, 1)),
  PRIMARY KEY (railway_id, id)
) STRICT, WITHOUT ROWID;

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE WHEN json_extract(each.value, '$.op') = 'railway' THEN json_set(each.value, '$.value.stepMetres', 0.1)
      ELSE each.value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses)) AS each) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
