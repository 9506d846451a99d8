-- Postings and the audit log are written once: no update, no delete, whoever is connected. (P1, G1)

CREATE OR REPLACE TRIGGER receipt_no_update BEFORE UPDATE ON receipt FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'receipt is written once';

CREATE OR REPLACE TRIGGER receipt_no_delete BEFORE DELETE ON receipt FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'receipt is written once';

CREATE OR REPLACE TRIGGER receipt_line_no_update BEFORE UPDATE ON receipt_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'receipt_line is written once';

CREATE OR REPLACE TRIGGER receipt_line_no_delete BEFORE DELETE ON receipt_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'receipt_line is written once';

CREATE OR REPLACE TRIGGER shipment_no_update BEFORE UPDATE ON shipment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'shipment is written once';

CREATE OR REPLACE TRIGGER shipment_no_delete BEFORE DELETE ON shipment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'shipment is written once';

CREATE OR REPLACE TRIGGER shipment_line_no_update BEFORE UPDATE ON shipment_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'shipment_line is written once';

CREATE OR REPLACE TRIGGER shipment_line_no_delete BEFORE DELETE ON shipment_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'shipment_line is written once';

CREATE OR REPLACE TRIGGER stock_entry_no_update BEFORE UPDATE ON stock_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'stock_entry is written once';

CREATE OR REPLACE TRIGGER stock_entry_no_delete BEFORE DELETE ON stock_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'stock_entry is written once';

CREATE OR REPLACE TRIGGER customer_invoice_no_update BEFORE UPDATE ON customer_invoice FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'customer_invoice is written once';

CREATE OR REPLACE TRIGGER customer_invoice_no_delete BEFORE DELETE ON customer_invoice FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'customer_invoice is written once';

CREATE OR REPLACE TRIGGER customer_invoice_line_no_update BEFORE UPDATE ON customer_invoice_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'customer_invoice_line is written once';

CREATE OR REPLACE TRIGGER customer_invoice_line_no_delete BEFORE DELETE ON customer_invoice_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'customer_invoice_line is written once';

CREATE OR REPLACE TRIGGER vendor_invoice_no_update BEFORE UPDATE ON vendor_invoice FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'vendor_invoice is written once';

CREATE OR REPLACE TRIGGER vendor_invoice_no_delete BEFORE DELETE ON vendor_invoice FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'vendor_invoice is written once';

CREATE OR REPLACE TRIGGER vendor_invoice_line_no_update BEFORE UPDATE ON vendor_invoice_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'vendor_invoice_line is written once';

CREATE OR REPLACE TRIGGER vendor_invoice_line_no_delete BEFORE DELETE ON vendor_invoice_line FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'vendor_invoice_line is written once';

CREATE OR REPLACE TRIGGER invoice_tax_no_update BEFORE UPDATE ON invoice_tax FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'invoice_tax is written once';

CREATE OR REPLACE TRIGGER invoice_tax_no_delete BEFORE DELETE ON invoice_tax FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'invoice_tax is written once';

CREATE OR REPLACE TRIGGER payment_no_update BEFORE UPDATE ON payment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'payment is written once';

CREATE OR REPLACE TRIGGER payment_no_delete BEFORE DELETE ON payment FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'payment is written once';

CREATE OR REPLACE TRIGGER journal_no_update BEFORE UPDATE ON journal FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'journal is written once';

CREATE OR REPLACE TRIGGER journal_no_delete BEFORE DELETE ON journal FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'journal is written once';

CREATE OR REPLACE TRIGGER journal_entry_no_update BEFORE UPDATE ON journal_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'journal_entry is written once';

CREATE OR REPLACE TRIGGER journal_entry_no_delete BEFORE DELETE ON journal_entry FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'journal_entry is written once';

CREATE OR REPLACE TRIGGER audit_no_update BEFORE UPDATE ON audit FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'audit is written once';

CREATE OR REPLACE TRIGGER audit_no_delete BEFORE DELETE ON audit FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'audit is written once';

CREATE OR REPLACE TRIGGER audit_document_no_update BEFORE UPDATE ON audit_document FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'audit_document is written once';

CREATE OR REPLACE TRIGGER audit_document_no_delete BEFORE DELETE ON audit_document FOR EACH ROW
  SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'audit_document is written once';
