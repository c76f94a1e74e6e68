ALTER TABLE gear
    DROP COLUMN above_mg,
    DROP COLUMN stated_mg,
    DROP COLUMN stated_typed,
    DROP COLUMN stated_source,
    DROP COLUMN stated_at,
    CHANGE COLUMN below_mg half_width_mg BIGINT NULL;
