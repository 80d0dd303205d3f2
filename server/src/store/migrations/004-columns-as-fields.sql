-- Every kind of thing is one table called as the kind, with a column for each field, called as the field. Lists and
-- objects within a thing, which stood in tables of their own, are kept in it as JSON.

ALTER TABLE zone RENAME COLUMN place TO "order";
ALTER TABLE turnout RENAME COLUMN place TO "order";
ALTER TABLE assignment RENAME COLUMN to_position TO "to";

ALTER TABLE own_type RENAME TO type;
ALTER TABLE type ADD COLUMN figures TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(figures));
ALTER TABLE type ADD COLUMN printed TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(printed));
ALTER TABLE type ADD COLUMN settings TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(settings));
UPDATE type SET
  figures = (SELECT json_group_object(name, value ORDER BY name) FROM own_figure AS own
             WHERE own.railway_id = type.railway_id AND own.type_id = type.id),
  printed = (SELECT json_group_object(terminal, printed ORDER BY terminal) FROM own_printed AS own
             WHERE own.railway_id = type.railway_id AND own.type_id = type.id),
  settings = (SELECT json_group_array(json_object('name', name, 'about', about, 'factory', factory, 'range', range) ORDER BY place)
              FROM own_setting AS own WHERE own.railway_id = type.railway_id AND own.type_id = type.id);
DROP TABLE own_figure;
DROP TABLE own_printed;
DROP TABLE own_setting;

ALTER TABLE test ADD COLUMN chain TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(chain));
UPDATE test SET chain = (SELECT json_group_object(name, was ORDER BY place) FROM test_link AS link
                         WHERE link.railway_id = test.railway_id AND link.test_id = test.id);
DROP TABLE test_link;
