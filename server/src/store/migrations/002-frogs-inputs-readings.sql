-- More that a device may do: frogs, inputs, blocks, several controls of one turnout, lamps lit by more than contacts.
-- Which columns are filled follows from the role.

CREATE TABLE assignment_2 (
  railway_id   TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id           TEXT NOT NULL,
  role         TEXT NOT NULL CHECK (role IN
    ('motor', 'driver', 'control', 'lamp', 'frog', 'input', 'block', 'supply', 'commands', 'address')),
  device_id    TEXT NOT NULL,
  turnout_id   TEXT,
  to_device_id TEXT,
  motor_id     TEXT,
  from_id      TEXT,
  control_id   TEXT,
  way          INTEGER CHECK (way BETWEEN 1 AND 64),
  crossed      INTEGER CHECK (crossed IN (0, 1)),
  opposite     INTEGER CHECK (opposite IN (0, 1)),
  inverse      INTEGER CHECK (inverse IN (0, 1)),
  to_position  TEXT CHECK (to_position IN ('N', 'R')),
  address      INTEGER CHECK (address BETWEEN 0 AND 65535),
  block        TEXT,
  rail         TEXT CHECK (rail IN ('J', 'K')),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, to_device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, motor_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, from_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, control_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK ((role IN ('motor', 'control', 'lamp', 'frog')) = (turnout_id IS NOT NULL)),
  CHECK ((role IN ('supply', 'commands')) = (to_device_id IS NOT NULL)),
  CHECK ((role = 'driver') = (motor_id IS NOT NULL)),
  CHECK (role <> 'lamp' OR from_id IS NOT NULL),
  CHECK (role IN ('lamp', 'frog') OR from_id IS NULL),
  CHECK ((role = 'input') = (control_id IS NOT NULL)),
  CHECK ((role = 'address') = (address IS NOT NULL)),
  CHECK ((role IN ('motor', 'lamp', 'frog')) = (crossed IS NOT NULL)),
  CHECK ((role = 'motor') = (opposite IS NOT NULL)),
  CHECK ((role = 'control') = (inverse IS NOT NULL)),
  CHECK (role = 'control' OR to_position IS NULL),
  CHECK ((role = 'block') = (block IS NOT NULL)),
  CHECK ((role = 'block') = (rail IS NOT NULL))
) STRICT, WITHOUT ROWID;

INSERT INTO assignment_2 (railway_id, id, role, device_id, turnout_id, to_device_id, motor_id, from_id, way, crossed, opposite, inverse, address)
SELECT railway_id, id, role, device_id, turnout_id, to_device_id,
  CASE role WHEN 'driver' THEN motor_id END, CASE role WHEN 'lamp' THEN motor_id END,
  way, crossed, opposite, CASE role WHEN 'control' THEN 0 END, address
FROM assignment;

DROP TABLE assignment;
ALTER TABLE assignment_2 RENAME TO assignment;

CREATE UNIQUE INDEX one_motor_of_turnout ON assignment (railway_id, turnout_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_turnout_of_motor ON assignment (railway_id, device_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_driver_of_motor ON assignment (railway_id, motor_id) WHERE role = 'driver';
CREATE UNIQUE INDEX one_frog_of_turnout ON assignment (railway_id, turnout_id) WHERE role = 'frog';
CREATE UNIQUE INDEX one_thing_at_input ON assignment (railway_id, device_id, way) WHERE role = 'input';
CREATE UNIQUE INDEX one_block_of_zone ON assignment (railway_id, device_id, way) WHERE role = 'block';
CREATE UNIQUE INDEX one_supply_of_device ON assignment (railway_id, to_device_id) WHERE role = 'supply';
CREATE UNIQUE INDEX one_address_of_output ON assignment (railway_id, device_id, way) WHERE role = 'address';

-- Sizes of strips and cables, which were 12 ways and 8 cores.
ALTER TABLE railway ADD COLUMN strip_ways INTEGER NOT NULL DEFAULT 12 CHECK (strip_ways BETWEEN 2 AND 24);
ALTER TABLE railway ADD COLUMN cable_cores INTEGER NOT NULL DEFAULT 8 CHECK (cable_cores BETWEEN 2 AND 8);

-- Readings taken by hand beside the meter. Terminals are named as in the circuit, strips' screws among them.
CREATE TABLE reading (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  red        TEXT NOT NULL,
  black      TEXT NOT NULL,
  red_name   TEXT NOT NULL,
  black_name TEXT NOT NULL,
  range      TEXT NOT NULL CHECK (range IN ('V', 'ohm', 'mA')),
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

-- History keeps edits as they were written; those of earlier controls, lamps and settings are brought to the new form, so that undo still works.
UPDATE history SET
  edits = (SELECT json_group_array(json(
    CASE json_extract(value, '$.value.role')
      WHEN 'control' THEN json_set(value, '$.value.way', NULL, '$.value.to', NULL, '$.value.inverse', json('false'))
      WHEN 'lamp' THEN json_remove(json_set(value, '$.value.fromId', json_extract(value, '$.value.motorId')), '$.value.motorId')
      ELSE CASE json_extract(value, '$.op')
        WHEN 'railway' THEN json_set(value, '$.value.stripWays', 12, '$.value.cableCores', 8)
        ELSE value
      END
    END)) FROM json_each(history.edits)),
  inverses = (SELECT json_group_array(json(
    CASE json_extract(value, '$.value.role')
      WHEN 'control' THEN json_set(value, '$.value.way', NULL, '$.value.to', NULL, '$.value.inverse', json('false'))
      WHEN 'lamp' THEN json_remove(json_set(value, '$.value.fromId', json_extract(value, '$.value.motorId')), '$.value.motorId')
      ELSE CASE json_extract(value, '$.op')
        WHEN 'railway' THEN json_set(value, '$.value.stripWays', 12, '$.value.cableCores', 8)
        ELSE value
      END
    END)) FROM json_each(history.inverses));
