-- Every revision has a stamp: the identifier of the group of edits that made it, given by the window that sent the group.
-- A group sent twice is applied once, and a window notices when the history it knows is not the one in this file.
ALTER TABLE history ADD COLUMN stamp TEXT NOT NULL DEFAULT '';
UPDATE history SET stamp = lower(hex(randomblob(8)));
CREATE UNIQUE INDEX one_group_of_stamp ON history (railway_id, stamp);
