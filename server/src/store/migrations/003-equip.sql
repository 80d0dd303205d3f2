-- What is known of each place where normal can turn into reverse, of facts and of open ends; pictures; more of own types.

ALTER TABLE railway ADD COLUMN currency TEXT NOT NULL DEFAULT 'EUR' CHECK (length(currency) BETWEEN 1 AND 8);
ALTER TABLE own_type ADD COLUMN box TEXT NOT NULL DEFAULT '';

CREATE TABLE own_printed (
  railway_id TEXT NOT NULL,
  type_id    TEXT NOT NULL,
  terminal   TEXT NOT NULL,
  printed    TEXT NOT NULL,
  PRIMARY KEY (railway_id, type_id, terminal),
  FOREIGN KEY (railway_id, type_id) REFERENCES own_type (railway_id, id) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;

CREATE TABLE own_setting (
  railway_id TEXT NOT NULL,
  type_id    TEXT NOT NULL,
  place      INTEGER NOT NULL,
  name       TEXT NOT NULL,
  about      TEXT NOT NULL,
  factory    TEXT NOT NULL,
  range      TEXT NOT NULL,
  PRIMARY KEY (railway_id, type_id, place),
  FOREIGN KEY (railway_id, type_id) REFERENCES own_type (railway_id, id) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;

CREATE TABLE sense (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  link       TEXT NOT NULL,
  device_id  TEXT NOT NULL,
  way        INTEGER CHECK (way BETWEEN 1 AND 64),
  inverts    INTEGER NOT NULL CHECK (inverts IN (0, 1)),
  known      TEXT NOT NULL CHECK (known IN ('assumed', 'drawn', 'seen', 'heard', 'metered')),
  flips      INTEGER NOT NULL CHECK (flips >= 0),
  note       TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE fact (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  text       TEXT NOT NULL,
  standing   TEXT NOT NULL CHECK (standing IN ('heard', 'read', 'measured')),
  type_id    TEXT,
  figure     TEXT,
  device_id  TEXT,
  source     TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE debt (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  kind       TEXT NOT NULL CHECK (kind IN ('open end', 'undecided', 'awaited')),
  text       TEXT NOT NULL,
  blocks     TEXT NOT NULL,
  turnout_id TEXT,
  done       INTEGER NOT NULL CHECK (done IN (0, 1)),
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

CREATE TABLE photo (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  turnout_id TEXT,
  device_id  TEXT,
  caption    TEXT NOT NULL,
  picture    TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  CHECK ((turnout_id IS NULL) <> (device_id IS NULL)),
  FOREIGN KEY (railway_id, turnout_id) REFERENCES turnout (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED
) STRICT, WITHOUT ROWID;

-- History keeps edits as they were written; those of own types and of the railway are brought to the new form, so that undo still works.
UPDATE history SET
  edits = (SELECT json_group_array(json(
    CASE json_extract(value, '$.kind') WHEN 'type'
      THEN CASE json_extract(value, '$.op') WHEN 'put'
        THEN json_set(value, '$.value.printed', json('{}'), '$.value.settings', json('[]'), '$.value.box', '') ELSE value END
      ELSE CASE json_extract(value, '$.op') WHEN 'railway' THEN json_set(value, '$.value.currency', 'EUR') ELSE value END
    END)) FROM json_each(history.edits)),
  inverses = (SELECT json_group_array(json(
    CASE json_extract(value, '$.kind') WHEN 'type'
      THEN CASE json_extract(value, '$.op') WHEN 'put'
        THEN json_set(value, '$.value.printed', json('{}'), '$.value.settings', json('[]'), '$.value.box', '') ELSE value END
      ELSE CASE json_extract(value, '$.op') WHEN 'railway' THEN json_set(value, '$.value.currency', 'EUR') ELSE value END
    END)) FROM json_each(history.inverses));
