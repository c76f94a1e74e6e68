-- The list that each item of the change log is of, read from what the log keeps of it: history is looked through by list.
ALTER TABLE change_item ADD COLUMN IF NOT EXISTS list_id BINARY(16) AS (
    IF(kind = 'list', object_id, UNHEX(REPLACE(COALESCE(JSON_VALUE(after_state, '$.list_id'), JSON_VALUE(before_state, '$.list_id')), '-', '')))
) VIRTUAL;
ALTER TABLE change_item ADD INDEX IF NOT EXISTS change_item_by_list (list_id, change_id);
