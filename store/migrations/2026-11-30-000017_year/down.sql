ALTER TABLE pack_list DROP COLUMN IF EXISTS year_nights;
