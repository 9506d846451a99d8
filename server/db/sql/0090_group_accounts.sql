-- Accounts that groups of items have for themselves: each shares what is posted to one for all. (U2 P3)
ALTER TABLE account ADD COLUMN IF NOT EXISTS shares_role VARCHAR(30) NULL AFTER posting_role;
ALTER TABLE item_group ADD COLUMN IF NOT EXISTS revenue_account_id INT UNSIGNED NULL;
ALTER TABLE item_group ADD COLUMN IF NOT EXISTS cost_account_id INT UNSIGNED NULL;
ALTER TABLE item_group ADD FOREIGN KEY IF NOT EXISTS item_group_revenue (company_id, revenue_account_id) REFERENCES account (company_id, id);
ALTER TABLE item_group ADD FOREIGN KEY IF NOT EXISTS item_group_cost (company_id, cost_account_id) REFERENCES account (company_id, id);
