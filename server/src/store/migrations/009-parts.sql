-- Colours by the owner's custom, what is on the shelf, plugs among strips, and what the railway says of cables and lengths.
CREATE TABLE custom (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  purpose    TEXT,
  device_id  TEXT,
  terminal   TEXT,
  colour     TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, purpose),
  UNIQUE (railway_id, device_id, terminal),
  FOREIGN KEY (railway_id, device_id) REFERENCES device (railway_id, id) DEFERRABLE INITIALLY DEFERRED,
  CHECK ((purpose IS NULL) = (device_id IS NOT NULL)),
  CHECK ((device_id IS NULL) = (terminal IS NULL))
) STRICT, WITHOUT ROWID;

CREATE TABLE stock (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  id         TEXT NOT NULL,
  thing      TEXT NOT NULL,
  have       REAL NOT NULL CHECK (have >= 0),
  price      REAL CHECK (price >= 0),
  supplier   TEXT NOT NULL,
  at         TEXT NOT NULL,
  PRIMARY KEY (railway_id, id),
  UNIQUE (railway_id, thing)
) STRICT, WITHOUT ROWID;

ALTER TABLE railway ADD COLUMN cable_colours TEXT NOT NULL DEFAULT 'signal'
  CHECK (cable_colours IN ('signal', 'pairs', 'ribbon'));
ALTER TABLE railway ADD COLUMN spare_share REAL NOT NULL DEFAULT 0 CHECK (spare_share BETWEEN 0 AND 0.5);
ALTER TABLE railway ADD COLUMN tail_metres REAL NOT NULL DEFAULT 0.6 CHECK (tail_metres > 0);
ALTER TABLE railway ADD COLUMN slack_metres REAL NOT NULL DEFAULT 0.025 CHECK (slack_metres BETWEEN 0 AND 1);
ALTER TABLE railway ADD COLUMN reel_metres REAL NOT NULL DEFAULT 25 CHECK (reel_metres >= 1);
ALTER TABLE strip ADD COLUMN pin_amps REAL CHECK (pin_amps > 0);
ALTER TABLE cable ADD COLUMN colours TEXT CHECK (colours IN ('signal', 'pairs', 'ribbon'));

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(value, '$.op') = 'railway' THEN json_set(value, '$.value.cableColours', 'signal',
        '$.value.spareShare', 0, '$.value.tailMetres', 0.6, '$.value.slackMetres', 0.025, '$.value.reelMetres', 25)
      WHEN json_extract(value, '$.kind') = 'strip' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.pinAmps', NULL)
      WHEN json_extract(value, '$.kind') = 'cable' AND json_extract(value, '$.op') = 'put'
        THEN json_set(value, '$.value.colours', NULL)
      ELSE value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses))) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
