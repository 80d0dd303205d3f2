-- What was done long ago is kept packed: edits and inverses as one deflated JSON text, and nothing in their own columns.
ALTER TABLE history ADD COLUMN packed BLOB;
CREATE INDEX history_not_packed ON history (railway_id, revision) WHERE packed IS NULL;
