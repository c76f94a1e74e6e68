ALTER TABLE change_item DROP INDEX change_item_by_list, DROP COLUMN list_id;
