-- Each column that refers to another thing has an index of its own: without one every row that is taken out or written anew is
-- looked for in the whole of each table that could refer to it. Unique indexes of some rows only do not serve for that.
CREATE INDEX turnout_moves_with ON turnout (railway_id, moves_with);
CREATE INDEX turnout_zone ON turnout (railway_id, zone_id);
CREATE INDEX sense_device ON sense (railway_id, device_id);
CREATE INDEX fact_device ON fact (railway_id, device_id);
CREATE INDEX debt_turnout ON debt (railway_id, turnout_id);
CREATE INDEX photo_device ON photo (railway_id, device_id);
CREATE INDEX photo_turnout ON photo (railway_id, turnout_id);
CREATE INDEX assignment_lamp ON assignment (railway_id, lamp_id);
CREATE INDEX assignment_control ON assignment (railway_id, control_id);
CREATE INDEX assignment_from ON assignment (railway_id, from_id);
CREATE INDEX assignment_of_motor ON assignment (railway_id, motor_id);
CREATE INDEX assignment_to_device ON assignment (railway_id, to_device_id);
CREATE INDEX assignment_of_turnout ON assignment (railway_id, turnout_id);
CREATE INDEX assignment_of_device ON assignment (railway_id, device_id);
CREATE INDEX wire_cable ON wire (railway_id, cable_id);
CREATE INDEX laying_device ON laying (railway_id, device_id);
CREATE INDEX test_turnout ON test (railway_id, turnout_id);
CREATE INDEX reading_turnout ON reading (railway_id, turnout_id);

-- What is left open in a railway, as it was last counted; NULL when something has been edited since.
ALTER TABLE railway ADD COLUMN open_ends INTEGER CHECK (open_ends >= 0);
