-- Boards and supplies that stand apart from the others, along the trunk line.
ALTER TABLE device ADD COLUMN run_metres REAL CHECK (run_metres > 0);

-- History keeps edits as they were written; they are brought to the new form, so that undo still works.
CREATE TEMP VIEW upgraded AS
SELECT history.railway_id AS railway, history.revision AS revision, side.name AS side,
  (SELECT json_group_array(json(
    CASE
      WHEN json_extract(each.value, '$.op') = 'put' AND json_extract(each.value, '$.kind') = 'device'
        THEN json_set(each.value, '$.value.runMetres', NULL)
      ELSE each.value END))
   FROM json_each(iif(side.name = 'edits', history.edits, history.inverses)) AS each) AS json
FROM history, (SELECT 'edits' AS name UNION ALL SELECT 'inverses') AS side;
UPDATE history SET
  edits = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'edits'),
  inverses = (SELECT json FROM upgraded WHERE railway = history.railway_id AND revision = history.revision AND side = 'inverses');
DROP VIEW upgraded;
