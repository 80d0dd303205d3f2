-- Reserved accessory addresses, what outputs of boards answer to, and settings of devices: as wanted, and as somebody made or
-- found them.
CREATE TABLE reserve (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  first      INTEGER NOT NULL CHECK (first BETWEEN 0 AND 65535),
  last       INTEGER NOT NULL CHECK (last BETWEEN 0 AND 65535),
  what       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  CHECK (first <= last)
) STRICT, WITHOUT ROWID;

CREATE TABLE answer (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER NOT NULL CHECK (way BETWEEN 1 AND 64),
  address    INTEGER NOT NULL CHECK (address BETWEEN 0 AND 65535),
  how        TEXT NOT NULL CHECK (how IN ('programmed', 'read', 'reset')),
  seen       TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, device_id, way),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE setting (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER CHECK (way BETWEEN 1 AND 64),
  name       TEXT NOT NULL COLLATE NOCASE,
  wanted     TEXT,
  "read"     TEXT,
  read_at    TEXT,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;
CREATE INDEX setting_of_device ON setting (railway_id, device_id);
