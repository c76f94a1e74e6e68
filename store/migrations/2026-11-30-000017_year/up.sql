-- Nights of the coming twelve months for which a list is carried, where the walker says so; null where its trips to come say it.
ALTER TABLE pack_list ADD COLUMN IF NOT EXISTS year_nights INT UNSIGNED NULL;
