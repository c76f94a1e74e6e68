DROP TABLE change_item;
DROP TABLE change_entry;
DROP TABLE weighing;
DROP TABLE kit_part;
DROP TABLE kit;
UPDATE gear SET source = 'estimate' WHERE source = 'derived';
ALTER TABLE gear
    DROP CONSTRAINT gear_price_range,
    DROP CONSTRAINT gear_claim_whole,
    DROP COLUMN half_width_mg,
    DROP COLUMN claimed_mg,
    DROP COLUMN claimed_typed,
    DROP COLUMN paid_high_minor,
    DROP COLUMN acquired,
    DROP COLUMN status,
    DROP COLUMN kept_at,
    DROP COLUMN tags,
    DROP COLUMN nights,
    CHANGE paid_low_minor paid_minor BIGINT NULL;
