-- Routes with the turnouts that they set and what asks for them; what lies on diode boards, and how these are built.
ALTER TABLE railway ADD COLUMN matrix_by TEXT NOT NULL DEFAULT 'fewest' CHECK (matrix_by IN ('fewest', 'full', 'cascaded'));

CREATE TABLE route (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  name       TEXT NOT NULL,
  "order"    INTEGER NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label)
) STRICT, WITHOUT ROWID;

CREATE TABLE routeTurnout (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  route_id   TEXT NOT NULL,
  turnout_id TEXT NOT NULL,
  "to"       TEXT NOT NULL CHECK ("to" IN ('N', 'R')),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, route_id) REFERENCES route (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX route_turnout_route ON routeTurnout (railway_id, route_id);
CREATE INDEX route_turnout_turnout ON routeTurnout (railway_id, turnout_id);

CREATE TABLE routeControl (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  route_id   TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER CHECK (way BETWEEN 1 AND 64),
  through_id TEXT,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, route_id) REFERENCES route (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, through_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX route_control_route ON routeControl (railway_id, route_id);
CREATE INDEX route_control_device ON routeControl (railway_id, device_id);
CREATE INDEX route_control_through ON routeControl (railway_id, through_id);

CREATE TABLE boardPart (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  "from"     TEXT NOT NULL,
  "to"       TEXT NOT NULL,
  "with"     TEXT NOT NULL CHECK ("with" IN ('diode', 'wire')),
  turned     INTEGER NOT NULL CHECK (turned IN (0, 1)),
  made_at    TEXT,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX board_part_device ON boardPart (railway_id, device_id);

-- The meter has a diode range; a check of a table cannot be changed, so both tables are made anew.
CREATE TABLE test_15 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  turnout_id TEXT NOT NULL,
  step       TEXT NOT NULL,
  position   TEXT CHECK (position IN ('N', 'R')),
  unit       TEXT NOT NULL CHECK (unit IN ('V', 'ohm', 'mA', 'diode', 'seen')),
  expected   REAL,
  low        REAL,
  high       REAL,
  read       REAL,
  seen       TEXT,
  verdict    TEXT NOT NULL CHECK (verdict IN ('passed', 'failed', 'no-change')),
  instrument TEXT NOT NULL,
  note       TEXT NOT NULL,
  at         TEXT NOT NULL,
  chain      TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(chain)),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO test_15 SELECT railway_id, id, turnout_id, step, position, unit, expected, low, high, read, seen, verdict,
  instrument, note, at, chain FROM test;
DROP TABLE test;
ALTER TABLE test_15 RENAME TO test;
CREATE TABLE reading_15 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  red        TEXT NOT NULL,
  black      TEXT NOT NULL,
  red_name   TEXT NOT NULL,
  black_name TEXT NOT NULL,
  range      TEXT NOT NULL CHECK (range IN ('V', 'ohm', 'mA', 'diode')),
  turnout_id TEXT,
  position   TEXT CHECK (position IN ('N', 'R')),
  moment     TEXT NOT NULL CHECK (moment IN ('rest', 'throwing', 'held')),
  expected   REAL,
  low        REAL,
  high       REAL,
  read       REAL NOT NULL,
  agrees     INTEGER NOT NULL CHECK (agrees IN (0, 1)),
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
INSERT INTO reading_15 SELECT railway_id, id, red, black, red_name, black_name, range, turnout_id, position, moment,
  expected, low, high, read, agrees, at FROM reading;
DROP TABLE reading;
ALTER TABLE reading_15 RENAME TO reading;

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(each.value, '$.op') = 'railway' THEN json_set(each.value, '$.value.matrixBy', 'fewest')
      ELSE each.value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses)) AS each) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
