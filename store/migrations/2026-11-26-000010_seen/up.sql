-- Where and when a candidate's price was seen, and how it is sold, as JSON text.
ALTER TABLE candidate ADD COLUMN IF NOT EXISTS seen TEXT NULL AFTER price_high_minor;
