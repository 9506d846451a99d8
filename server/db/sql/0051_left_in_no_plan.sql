-- What is left of an agreement and in no plan counts in planning as the agreement says; by how likely it is, where the company says so. (A7)
ALTER TABLE agreement ADD COLUMN IF NOT EXISTS rest_plan ENUM('spread','last','none') NOT NULL DEFAULT 'spread';
ALTER TABLE company ADD COLUMN IF NOT EXISTS plan_by_probability BOOLEAN NOT NULL DEFAULT FALSE;
