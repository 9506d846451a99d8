-- Terms of agreements: kinds of price, price breaks, least release and multiple, all four limit policies,
-- and what a manager weighs. (A3, A5, A6, A8, A13)

ALTER TABLE agreement
  MODIFY COLUMN limit_policy ENUM('refuse','warn','keep','split') NOT NULL,
  ADD COLUMN IF NOT EXISTS probability_percent DECIMAL(5,2) NOT NULL DEFAULT 100
    CHECK (probability_percent >= 0 AND probability_percent <= 100),
  ADD COLUMN IF NOT EXISTS priority TINYINT UNSIGNED NOT NULL DEFAULT 5 CHECK (priority >= 1 AND priority <= 9),
  ADD COLUMN IF NOT EXISTS notes VARCHAR(2000) NOT NULL DEFAULT '';

ALTER TABLE agreement_line
  MODIFY COLUMN unit_price DECIMAL(14,4) NULL CHECK (unit_price > 0),
  ADD COLUMN IF NOT EXISTS price_kind ENUM('fixed','discount','none') NOT NULL DEFAULT 'fixed',
  ADD COLUMN IF NOT EXISTS discount_percent DECIMAL(5,2) NULL CHECK (discount_percent > 0 AND discount_percent < 100),
  ADD COLUMN IF NOT EXISTS least_release DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (least_release >= 0),
  ADD COLUMN IF NOT EXISTS release_multiple DECIMAL(18,5) NOT NULL DEFAULT 0 CHECK (release_multiple >= 0),
  ADD COLUMN IF NOT EXISTS notes VARCHAR(400) NOT NULL DEFAULT '',
  -- What the line commits to in value, at the price of the day it was written.
  ADD COLUMN IF NOT EXISTS committed_value DECIMAL(18,4) NOT NULL DEFAULT 0,
  ADD CONSTRAINT IF NOT EXISTS agreement_line_price CHECK (
    (price_kind = 'fixed') = (unit_price IS NOT NULL)
    AND (price_kind = 'discount') = (discount_percent IS NOT NULL)
  );

UPDATE agreement_line l JOIN agreement a ON a.company_id = l.company_id AND a.id = l.agreement_id
   SET l.committed_value = ROUND(l.committed * l.unit_price, 2)
 WHERE l.committed_value = 0 AND l.unit_price IS NOT NULL;

-- Other prices from a released quantity on; the line's own kind says whether they are prices or discounts.
CREATE TABLE IF NOT EXISTS agreement_break (
  company_id SMALLINT UNSIGNED NOT NULL,
  agreement_line_id INT UNSIGNED NOT NULL,
  from_quantity DECIMAL(18,5) NOT NULL CHECK (from_quantity > 0),
  unit_price DECIMAL(14,4) NULL CHECK (unit_price > 0),
  discount_percent DECIMAL(5,2) NULL CHECK (discount_percent > 0 AND discount_percent < 100),
  PRIMARY KEY (company_id, agreement_line_id, from_quantity),
  FOREIGN KEY (company_id, agreement_line_id) REFERENCES agreement_line (company_id, id) ON DELETE CASCADE,
  CONSTRAINT agreement_break_price CHECK ((unit_price IS NULL) <> (discount_percent IS NULL))
);
