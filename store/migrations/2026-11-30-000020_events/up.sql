-- What a change did, as a code with its figures; sentences that were written before stay where they are.
ALTER TABLE change_entry ADD COLUMN IF NOT EXISTS entry TEXT NULL, MODIFY said VARCHAR(300) NOT NULL DEFAULT '';
-- What it is about, as bits: gear 1, lists 2, swaps 4, trips 8, settings 16. History is filtered by it.
ALTER TABLE change_entry ADD COLUMN IF NOT EXISTS about TINYINT UNSIGNED NOT NULL DEFAULT 0;
UPDATE change_entry
    JOIN (
        SELECT change_id, BIT_OR(CASE
            WHEN kind IN ('gear', 'weighing', 'kit') THEN 1
            WHEN kind IN ('list', 'line', 'walker', 'link', 'earlier') THEN 2
            WHEN kind IN ('swap', 'plan') THEN 4
            WHEN kind IN ('trip', 'trip_thing', 'silenced') THEN 8
            ELSE 16
        END) AS about
        FROM change_item
        GROUP BY change_id
    ) AS touched ON touched.change_id = change_entry.id
SET change_entry.about = touched.about
WHERE change_entry.about = 0;
ALTER TABLE base_point ADD COLUMN IF NOT EXISTS entry TEXT NULL;
