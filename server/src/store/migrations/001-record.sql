-- The record: one table per kind of thing, keyed by railway and identifier. Foreign keys are checked when a group of
-- edits is committed, so that things may be put in any order within it.

CREATE TABLE railway (
  id            TEXT PRIMARY KEY,
  revision      INTEGER NOT NULL CHECK (revision >= 0),
  name          TEXT NOT NULL CHECK (length(name) > 0),
  units         TEXT NOT NULL CHECK (units IN ('metric', 'imperial')),
  address_shift INTEGER NOT NULL CHECK (address_shift IN (0, 4)),
  wire_gauge    TEXT NOT NULL,
  cable_gauge   TEXT NOT NULL,
  cable_metres  REAL NOT NULL CHECK (cable_metres > 0),
  run_metres    REAL NOT NULL CHECK (run_metres > 0),
  note          TEXT NOT NULL,
  changed_at    TEXT NOT NULL
) STRICT;

CREATE TABLE zone (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  name       TEXT NOT NULL,
  place      INTEGER NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label)
) STRICT, WITHOUT ROWID;

CREATE TABLE turnout (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  name       TEXT NOT NULL,
  hand       TEXT NOT NULL CHECK (hand IN ('left', 'right', 'wye', 'unknown')),
  zone_id    TEXT,
  moves_with TEXT CHECK (moves_with <> id),
  run_metres REAL CHECK (run_metres > 0),
  place      INTEGER NOT NULL,
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label),
  FOREIGN KEY (railway_id, zone_id) REFERENCES zone (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, moves_with) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE own_type (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  based_on   TEXT NOT NULL,
  name       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id)
) STRICT, WITHOUT ROWID;

CREATE TABLE own_figure (
  railway_id TEXT NOT NULL,
  type_id    TEXT NOT NULL,
  name       TEXT NOT NULL,
  value      REAL NOT NULL,
  PRIMARY KEY (railway_id, type_id, name),
  FOREIGN KEY (railway_id, type_id) REFERENCES own_type (railway_id, id) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;

CREATE TABLE device (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  type_id    TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  place      TEXT NOT NULL CHECK (place IN ('panel', 'layout')),
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label)
) STRICT, WITHOUT ROWID;

-- Which columns are filled follows from the role.
CREATE TABLE assignment (
  railway_id   TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id           TEXT NOT NULL,
  role         TEXT NOT NULL CHECK (role IN ('motor', 'driver', 'control', 'lamp', 'supply', 'commands', 'address')),
  device_id    TEXT NOT NULL,
  turnout_id   TEXT,
  to_device_id TEXT,
  motor_id     TEXT,
  way          INTEGER CHECK (way BETWEEN 1 AND 64),
  crossed      INTEGER CHECK (crossed IN (0, 1)),
  opposite     INTEGER CHECK (opposite IN (0, 1)),
  address      INTEGER CHECK (address BETWEEN 0 AND 65535),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, to_device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, motor_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK ((role IN ('motor', 'control', 'lamp')) = (turnout_id IS NOT NULL)),
  CHECK ((role IN ('supply', 'commands')) = (to_device_id IS NOT NULL)),
  CHECK ((role IN ('driver', 'lamp')) = (motor_id IS NOT NULL)),
  CHECK ((role = 'address') = (address IS NOT NULL)),
  CHECK ((role IN ('motor', 'lamp')) = (crossed IS NOT NULL)),
  CHECK ((role = 'motor') = (opposite IS NOT NULL))
) STRICT, WITHOUT ROWID;

CREATE UNIQUE INDEX one_motor_of_turnout ON assignment (railway_id, turnout_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_turnout_of_motor ON assignment (railway_id, device_id) WHERE role = 'motor';
CREATE UNIQUE INDEX one_driver_of_motor ON assignment (railway_id, motor_id) WHERE role = 'driver';
CREATE UNIQUE INDEX one_supply_of_device ON assignment (railway_id, to_device_id) WHERE role = 'supply';
CREATE UNIQUE INDEX one_address_of_output ON assignment (railway_id, device_id, way) WHERE role = 'address';

CREATE TABLE test (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  turnout_id TEXT NOT NULL,
  step       TEXT NOT NULL,
  position   TEXT CHECK (position IN ('N', 'R')),
  unit       TEXT NOT NULL CHECK (unit IN ('V', 'ohm', 'mA', 'seen')),
  expected   REAL,
  low        REAL,
  high       REAL,
  read       REAL,
  seen       TEXT,
  verdict    TEXT NOT NULL CHECK (verdict IN ('passed', 'failed', 'no-change')),
  instrument TEXT NOT NULL,
  note       TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

-- What each link of the chain was when the test was made; place keeps their order.
CREATE TABLE test_link (
  railway_id TEXT NOT NULL,
  test_id    TEXT NOT NULL,
  place      INTEGER NOT NULL,
  name       TEXT NOT NULL,
  was        TEXT NOT NULL,
  PRIMARY KEY (railway_id, test_id, place),
  UNIQUE (railway_id, test_id, name),
  FOREIGN KEY (railway_id, test_id) REFERENCES test (railway_id, id) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;

CREATE TABLE acceptance (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  rule       TEXT NOT NULL,
  subject    TEXT NOT NULL,
  cause      TEXT NOT NULL,
  reason     TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id)
) STRICT, WITHOUT ROWID;

-- One row for each group of edits, never changed. An undo or redo is a group of its own that names the group it is about.
CREATE TABLE history (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  revision   INTEGER NOT NULL CHECK (revision > 0),
  words      TEXT NOT NULL,
  origin     TEXT NOT NULL CHECK (origin IN ('edit', 'undo', 'redo')),
  about      INTEGER,
  edits      TEXT NOT NULL,
  inverses   TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, revision),
  CHECK ((origin = 'edit') = (about IS NULL))
) STRICT, WITHOUT ROWID;
