-- Strips, cables and wires are things of their own: proposed, kept by the owner, or made.
CREATE TABLE strip (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  kind       TEXT NOT NULL CHECK (kind IN ('screws', 'splice')),
  place      TEXT NOT NULL CHECK (place IN ('panel', 'layout')),
  ways       INTEGER NOT NULL CHECK (ways BETWEEN 1 AND 64),
  kept       INTEGER NOT NULL CHECK (kept IN (0, 1)),
  fixed_at   TEXT,
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label)
) STRICT, WITHOUT ROWID;

CREATE TABLE cable (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  label      TEXT NOT NULL COLLATE NOCASE,
  cores      INTEGER NOT NULL CHECK (cores BETWEEN 2 AND 64),
  gauge      TEXT,
  metres     REAL,
  kept       INTEGER NOT NULL CHECK (kept IN (0, 1)),
  laid_at    TEXT,
  note       TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, label)
) STRICT, WITHOUT ROWID;

CREATE TABLE wire (
  railway_id     TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id             TEXT NOT NULL,
  number         INTEGER NOT NULL CHECK (number BETWEEN 1 AND 99999),
  from_device_id TEXT,
  from_terminal  TEXT,
  from_strip_id  TEXT,
  from_way       INTEGER CHECK (from_way BETWEEN 1 AND 64),
  to_device_id   TEXT,
  to_terminal    TEXT,
  to_strip_id    TEXT,
  to_way         INTEGER CHECK (to_way BETWEEN 1 AND 64),
  cable_id       TEXT,
  core           INTEGER CHECK (core BETWEEN 1 AND 64),
  colour         TEXT,
  gauge          TEXT,
  metres         REAL,
  kept           INTEGER NOT NULL CHECK (kept IN (0, 1)),
  cut_at         TEXT,
  labelled_at    TEXT,
  from_joined_at TEXT,
  to_joined_at   TEXT,
  tested_at      TEXT,
  out_at         TEXT,
  note           TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, number),
  FOREIGN KEY (railway_id, from_device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, to_device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, from_strip_id) REFERENCES strip (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, to_strip_id) REFERENCES strip (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, cable_id) REFERENCES cable (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK (from_device_id IS NULL OR from_strip_id IS NULL),
  CHECK (to_device_id IS NULL OR to_strip_id IS NULL),
  CHECK ((from_strip_id IS NULL) = (from_way IS NULL)),
  CHECK ((to_strip_id IS NULL) = (to_way IS NULL)),
  CHECK ((cable_id IS NULL) = (core IS NULL))
) STRICT, WITHOUT ROWID;

CREATE UNIQUE INDEX one_wire_of_core ON wire (railway_id, cable_id, core) WHERE cable_id IS NOT NULL AND out_at IS NULL;
CREATE INDEX wire_from_device ON wire (railway_id, from_device_id);
CREATE INDEX wire_to_device ON wire (railway_id, to_device_id);
CREATE INDEX wire_from_strip ON wire (railway_id, from_strip_id);
CREATE INDEX wire_to_strip ON wire (railway_id, to_strip_id);

-- A probe on a screw of a strip is known by the strip and its way.
UPDATE reading SET red = lower(substr(red, 1, instr(red, ':') - 1)) || '/' || substr(red, instr(red, ':') + 1)
WHERE red GLOB '[PK][0-9]*:[0-9]*';
UPDATE reading SET black = lower(substr(black, 1, instr(black, ':') - 1)) || '/' || substr(black, instr(black, ':') + 1)
WHERE black GLOB '[PK][0-9]*:[0-9]*';

-- How nets are laid under the layout is a choice: of the railway, of a zone, of a net.
ALTER TABLE railway ADD COLUMN commons TEXT NOT NULL DEFAULT 'bus' CHECK (commons IN ('star', 'chain', 'bus'));
ALTER TABLE railway ADD COLUMN feeders TEXT NOT NULL DEFAULT 'chain' CHECK (feeders IN ('star', 'chain', 'bus'));
ALTER TABLE railway ADD COLUMN bus_gauge TEXT NOT NULL DEFAULT '1.5 mm2';
ALTER TABLE railway ADD COLUMN spacing_metres REAL NOT NULL DEFAULT 0.3 CHECK (spacing_metres > 0);
ALTER TABLE zone ADD COLUMN commons TEXT CHECK (commons IN ('star', 'chain', 'bus'));
CREATE TABLE laying (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  terminal   TEXT NOT NULL,
  topology   TEXT NOT NULL CHECK (topology IN ('star', 'chain', 'bus')),
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
UPDATE history SET
  edits = (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.op') = 'railway' THEN json_set(value, '$.value.commons', 'bus', '$.value.feeders',
        'chain', '$.value.busGauge', '1.5 mm2', '$.value.spacingMetres', 0.3)
      WHEN json_extract(value, '$.kind') = 'zone' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.commons', NULL)
      ELSE value END)) FROM json_each(history.edits)),
  inverses = (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.op') = 'railway' THEN json_set(value, '$.value.commons', 'bus', '$.value.feeders',
        'chain', '$.value.busGauge', '1.5 mm2', '$.value.spacingMetres', 0.3)
      WHEN json_extract(value, '$.kind') = 'zone' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.commons', NULL)
      ELSE value END)) FROM json_each(history.inverses));
