DROP TABLE IF EXISTS list_link;
DROP TABLE IF EXISTS list_walker;
ALTER TABLE pack_list DROP COLUMN IF EXISTS trip, DROP COLUMN IF EXISTS way, DROP COLUMN IF EXISTS ways, DROP COLUMN IF EXISTS archived;
ALTER TABLE list_line
    DROP COLUMN IF EXISTS apart, DROP COLUMN IF EXISTS left_home, DROP COLUMN IF EXISTS shared, DROP COLUMN IF EXISTS walker_id;
ALTER TABLE candidate DROP COLUMN IF EXISTS facts;
ALTER TABLE gear DROP COLUMN IF EXISTS facts;
UPDATE gear SET
    provides = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(provides, '"sleep_insulation":', '"insulation":'), '"ground_insulation":', '"ground_r":'), '"shelter_pole":', '"pole":'), '"water_carried":', '"water_ml":'), '"room":', '"room_ml":'), '"load":', '"load_g":'), '"power":', '"power_mwh":'),
    needs = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(needs, '"sleep_insulation":', '"insulation":'), '"ground_insulation":', '"ground_r":'), '"shelter_pole":', '"pole":'), '"water_carried":', '"water_ml":'), '"room":', '"room_ml":'), '"load":', '"load_g":'), '"power":', '"power_mwh":');
UPDATE candidate SET
    provides = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(provides, '"sleep_insulation":', '"insulation":'), '"ground_insulation":', '"ground_r":'), '"shelter_pole":', '"pole":'), '"water_carried":', '"water_ml":'), '"room":', '"room_ml":'), '"load":', '"load_g":'), '"power":', '"power_mwh":'),
    needs = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(needs, '"sleep_insulation":', '"insulation":'), '"ground_insulation":', '"ground_r":'), '"shelter_pole":', '"pole":'), '"water_carried":', '"water_ml":'), '"room":', '"room_ml":'), '"load":', '"load_g":'), '"power":', '"power_mwh":');
UPDATE pack_list SET
    requires = REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(REPLACE(requires, '"sleep_insulation":', '"insulation":'), '"ground_insulation":', '"ground_r":'), '"shelter_pole":', '"pole":'), '"water_carried":', '"water_ml":'), '"room":', '"room_ml":'), '"load":', '"load_g":'), '"power":', '"power_mwh":');
