-- A figure that was typed without a unit names the unit that was meant, so that it stays the same in another one.
UPDATE gear SET unit_typed = CONCAT(unit_typed, IF(CAST(REPLACE(unit_typed, ',', '.') AS DECIMAL(30, 10)) * 1000 = unit_mg, ' g', ' oz'))
    WHERE unit_typed REGEXP '^[0-9]+([.,][0-9]+)?$';
UPDATE gear SET claimed_typed = CONCAT(claimed_typed, IF(CAST(REPLACE(claimed_typed, ',', '.') AS DECIMAL(30, 10)) * 1000 = claimed_mg, ' g', ' oz'))
    WHERE claimed_typed REGEXP '^[0-9]+([.,][0-9]+)?$';
UPDATE candidate SET unit_typed = CONCAT(unit_typed, IF(CAST(REPLACE(unit_typed, ',', '.') AS DECIMAL(30, 10)) * 1000 = unit_mg, ' g', ' oz'))
    WHERE unit_typed REGEXP '^[0-9]+([.,][0-9]+)?$';
UPDATE weighing SET typed = CONCAT(typed, IF(CAST(REPLACE(typed, ',', '.') AS DECIMAL(30, 10)) * 1000 = total_mg, ' g', ' oz'))
    WHERE typed REGEXP '^[0-9]+([.,][0-9]+)?$';
UPDATE pack_list SET target_typed = CONCAT(target_typed, IF(CAST(REPLACE(target_typed, ',', '.') AS DECIMAL(30, 10)) * 1000000 = target_mg, ' kg', ' lb'))
    WHERE target_typed REGEXP '^[0-9]+([.,][0-9]+)?$';

-- How far below and above its figure a weight may lie: not the same where it is calculated from makers' figures.
ALTER TABLE gear
    CHANGE COLUMN IF EXISTS half_width_mg below_mg BIGINT NULL,
    ADD COLUMN IF NOT EXISTS above_mg BIGINT NULL AFTER below_mg,
    -- What was said of the weight last, other than by weighing: it counts again when later weighings are taken back.
    ADD COLUMN IF NOT EXISTS stated_mg BIGINT NULL AFTER above_mg,
    ADD COLUMN IF NOT EXISTS stated_typed VARCHAR(60) NULL AFTER stated_mg,
    ADD COLUMN IF NOT EXISTS stated_source VARCHAR(10) NULL AFTER stated_typed,
    ADD COLUMN IF NOT EXISTS stated_at DATETIME(6) NULL AFTER stated_source;
UPDATE gear SET above_mg = below_mg WHERE above_mg IS NULL;
UPDATE gear SET stated_mg = unit_mg, stated_typed = unit_typed, stated_source = source, stated_at = NOW(6)
    WHERE source IN ('maker', 'estimate') AND stated_at IS NULL;
