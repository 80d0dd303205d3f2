-- What follows of the loom for an edit of a large railway comes after it, as a group of its own that is undone with it.
CREATE TABLE history_2 (
  railway_id TEXT NOT NULL REFERENCES railway (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED,
  revision   INTEGER NOT NULL CHECK (revision > 0),
  stamp      TEXT NOT NULL,
  words      TEXT NOT NULL,
  origin     TEXT NOT NULL CHECK (origin IN ('edit', 'undo', 'redo', 'plan')),
  about      INTEGER,
  edits      TEXT NOT NULL,
  inverses   TEXT NOT NULL,
  at         TEXT NOT NULL,
  packed     BLOB,
  PRIMARY KEY (railway_id, revision),
  CHECK ((origin = 'edit') = (about IS NULL))
) STRICT, WITHOUT ROWID;
INSERT INTO history_2 (railway_id, revision, stamp, words, origin, about, edits, inverses, at, packed)
SELECT railway_id, revision, stamp, words, origin, about, edits, inverses, at, packed FROM history;
DROP TABLE history;
ALTER TABLE history_2 RENAME TO history;
CREATE UNIQUE INDEX one_group_of_stamp ON history (railway_id, stamp);
CREATE INDEX history_not_packed ON history (railway_id, revision) WHERE packed IS NULL;
CREATE INDEX plans_of_edit ON history (railway_id, about) WHERE origin = 'plan';
