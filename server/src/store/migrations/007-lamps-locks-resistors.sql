-- Lamps have colours by name; a control may follow a level; a sensor at the throw bar lights a box when it is covered at
-- one position; a piece of a resistor board lies in a lamp's common lead.
ALTER TABLE "type" ADD COLUMN colours TEXT;
CREATE TABLE assignment_7 (
  railway_id   TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id           TEXT NOT NULL,
  role         TEXT NOT NULL CHECK (role IN
    ('motor', 'driver', 'control', 'lamp', 'frog', 'input', 'block', 'resistor', 'lock', 'supply', 'commands', 'address')),
  device_id    TEXT NOT NULL,
  turnout_id   TEXT,
  to_device_id TEXT,
  motor_id     TEXT,
  from_id      TEXT,
  control_id   TEXT,
  lamp_id      TEXT,
  way          INTEGER CHECK (way BETWEEN 1 AND 64),
  control_way  INTEGER CHECK (control_way BETWEEN 1 AND 64),
  crossed      INTEGER CHECK (crossed IN (0, 1)),
  opposite     INTEGER CHECK (opposite IN (0, 1)),
  inverse      INTEGER CHECK (inverse IN (0, 1)),
  follows      INTEGER CHECK (follows IN (0, 1)),
  "to"         TEXT CHECK ("to" IN ('N', 'R')),
  covered_at   TEXT CHECK (covered_at IN ('N', 'R')),
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
  FOREIGN KEY (railway_id, lamp_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK ((role IN ('motor', 'control', 'lamp', 'frog')) = (turnout_id IS NOT NULL)),
  CHECK ((role IN ('supply', 'commands')) = (to_device_id IS NOT NULL)),
  CHECK ((role = 'driver') = (motor_id IS NOT NULL)),
  CHECK (role <> 'lamp' OR from_id IS NOT NULL),
  CHECK (role IN ('lamp', 'frog') OR from_id IS NULL),
  CHECK ((role IN ('input', 'lock')) = (control_id IS NOT NULL)),
  CHECK ((role = 'resistor') = (lamp_id IS NOT NULL)),
  CHECK ((role = 'address') = (address IS NOT NULL)),
  CHECK ((role IN ('motor', 'lamp', 'frog')) = (crossed IS NOT NULL)),
  CHECK ((role = 'motor') = (opposite IS NOT NULL)),
  CHECK ((role = 'control') = (inverse IS NOT NULL)),
  CHECK ((role = 'control') = (follows IS NOT NULL)),
  CHECK (role = 'control' OR "to" IS NULL),
  CHECK (role = 'lamp' OR covered_at IS NULL),
  CHECK ((role = 'block') = (block IS NOT NULL)),
  CHECK ((role = 'block') = (rail IS NOT NULL))
) STRICT, WITHOUT ROWID;

INSERT INTO assignment_7 (railway_id, id, role, device_id, turnout_id, to_device_id, motor_id, from_id, control_id, way,
  control_way, crossed, opposite, inverse, follows, "to", address, block, rail)
SELECT railway_id, id, role, device_id, turnout_id, to_device_id, motor_id, from_id, control_id, way,
  control_way, crossed, opposite, inverse, CASE role WHEN 'control' THEN 0 END, "to", address, block, rail
FROM assignment;

DROP TABLE assignment;
ALTER TABLE assignment_7 RENAME TO assignment;

CREATE UNIQUE INDEX one_motor_of_turnout ON assignment (railway_id, turnout_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_turnout_of_motor ON assignment (railway_id, device_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_driver_of_motor ON assignment (railway_id, motor_id) WHERE role = 'driver';
CREATE UNIQUE INDEX one_frog_of_turnout ON assignment (railway_id, turnout_id) WHERE role = 'frog';
CREATE UNIQUE INDEX one_thing_at_input ON assignment (railway_id, device_id, way) WHERE role = 'input';
CREATE UNIQUE INDEX one_block_of_zone ON assignment (railway_id, device_id, way) WHERE role = 'block';
CREATE UNIQUE INDEX one_lamp_of_piece ON assignment (railway_id, device_id, way) WHERE role = 'resistor';
CREATE UNIQUE INDEX one_supply_of_device ON assignment (railway_id, to_device_id) WHERE role = 'supply';
CREATE UNIQUE INDEX one_address_of_output ON assignment (railway_id, device_id, way) WHERE role = 'address';

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
UPDATE history SET
  edits = (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.value.role') = 'control' THEN json_set(value, '$.value.follows', json('false'))
      WHEN json_extract(value, '$.value.role') = 'lamp' THEN json_set(value, '$.value.coveredAt', NULL)
      WHEN json_extract(value, '$.kind') = 'type' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.colours', NULL)
      ELSE value END)) FROM json_each(history.edits)),
  inverses = (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.value.role') = 'control' THEN json_set(value, '$.value.follows', json('false'))
      WHEN json_extract(value, '$.value.role') = 'lamp' THEN json_set(value, '$.value.coveredAt', NULL)
      WHEN json_extract(value, '$.kind') = 'type' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.colours', NULL)
      ELSE value END)) FROM json_each(history.inverses));
