-- Who sells to a customer: their new orders are that person's until somebody shares them otherwise. (S1 S12)

ALTER TABLE customer
  ADD COLUMN IF NOT EXISTS sales_person_id INT UNSIGNED NULL,
  ADD CONSTRAINT customer_sales_person FOREIGN KEY IF NOT EXISTS (sales_person_id) REFERENCES person (id);

CREATE OR REPLACE TRIGGER sales_order_sold_by AFTER INSERT ON sales_order FOR EACH ROW
  INSERT INTO order_commission (company_id, order_id, person_id, per_cent)
    SELECT NEW.company_id, NEW.id, c.sales_person_id, 100 FROM customer c
     WHERE c.company_id = NEW.company_id AND c.id = NEW.customer_id AND c.sales_person_id IS NOT NULL;
