-- An input reads a control, or one zone, output or pole of it; until now it read the control as a whole, and so the first
-- of its ways that commands.
ALTER TABLE assignment ADD COLUMN control_way INTEGER CHECK (control_way BETWEEN 1 AND 64);
UPDATE assignment SET control_way =
  (SELECT way FROM assignment AS control
   WHERE control.railway_id = assignment.railway_id AND control.role = 'control' AND control.device_id = assignment.control_id
   ORDER BY control.id LIMIT 1)
WHERE role = 'input';

-- History keeps edits as they were written; those of inputs are brought to the new form, so that undo still works.
UPDATE history SET
  edits = (SELECT json_group_array(json(
    CASE json_extract(value, '$.value.role') WHEN 'input'
      THEN json_set(value, '$.value.controlWay',
        (SELECT way FROM assignment AS control
         WHERE control.railway_id = history.railway_id AND control.role = 'control'
           AND control.device_id = json_extract(value, '$.value.controlId')
         ORDER BY control.id LIMIT 1))
      ELSE value END)) FROM json_each(history.edits)),
  inverses = (SELECT json_group_array(json(
    CASE json_extract(value, '$.value.role') WHEN 'input'
      THEN json_set(value, '$.value.controlWay',
        (SELECT way FROM assignment AS control
         WHERE control.railway_id = history.railway_id AND control.role = 'control'
           AND control.device_id = json_extract(value, '$.value.controlId')
         ORDER BY control.id LIMIT 1))
      ELSE value END)) FROM json_each(history.inverses));
