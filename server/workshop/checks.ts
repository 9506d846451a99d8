import { account, bound, counter, type Check } from '../room';

const OPERATION =
  "CONCAT((SELECT p.number FROM planned_order p WHERE p.company_id = x.company_id AND p.id = x.planned_order_id), ' operation ', x.no)";
const PART =
  "CONCAT((SELECT p.number FROM planned_order p WHERE p.company_id = x.company_id AND p.id = x.planned_order_id), ' uses ', (SELECT i.number FROM item i WHERE i.company_id = x.company_id AND i.id = x.item_id))";
const ofReports = (sum: string, table: string, key: string) =>
  `SELECT SUM(${sum}) FROM ${table} r WHERE r.company_id = x.company_id AND r.${key} = x.id`;

/** What must be true of what the workshop keeps. // G5 */
export const checks: readonly Check[] = [
  // W3
  counter(
    'pieces made',
    'planned_order',
    'x.number',
    'x.finished',
    ofReports('r.good', 'work_report', 'planned_order_id'),
  ),
  counter(
    'pieces lost',
    'planned_order',
    'x.number',
    'x.scrapped',
    ofReports('r.scrapped', 'work_report', 'planned_order_id'),
  ),
  counter(
    'work in progress of an order',
    'planned_order',
    'x.number',
    'x.in_work',
    ofReports(
      'r.material_cost + r.labour_cost - r.output_cost - r.scrap_cost - r.variance',
      'work_report',
      'planned_order_id',
    ),
  ),
  counter(
    'component used',
    'planned_component',
    PART,
    'x.used',
    ofReports('r.quantity', 'work_report_component', 'component_id'),
  ),
  counter(
    'pieces through an operation',
    'planned_operation',
    OPERATION,
    'x.done',
    ofReports('r.done', 'work_report_operation', 'operation_id'),
  ),
  counter(
    'pieces lost at an operation',
    'planned_operation',
    OPERATION,
    'x.scrapped',
    ofReports('r.scrapped', 'work_report_operation', 'operation_id'),
  ),
  counter(
    'minutes of an operation',
    'planned_operation',
    OPERATION,
    'x.minutes_done',
    ofReports('r.minutes', 'work_report_operation', 'operation_id'),
  ),
  {
    what: 'work in progress of what is over',
    sql: "SELECT number AS subject, in_work AS kept, 0 AS counted FROM planned_order WHERE state IN ('finished', 'cancelled', 'planned', 'firm') AND in_work <> 0",
  },
  // P3
  account(
    'work in progress account against orders',
    'work-in-progress',
    'SELECT SUM(p.in_work) FROM planned_order p WHERE p.company_id = x.company_id',
  ),
  counter(
    'material of a work report',
    'work_report',
    'x.number',
    'x.material_cost',
    ofReports('r.cost', 'work_report_component', 'report_id'),
  ),
  counter(
    'labour of a work report',
    'work_report',
    'x.number',
    'x.labour_cost',
    ofReports('r.cost', 'work_report_operation', 'report_id'),
  ),
  counter(
    'pieces a work report lost',
    'work_report',
    'x.number',
    'x.scrapped',
    `IF(EXISTS (SELECT 1 FROM work_report_operation r
      WHERE r.company_id = x.company_id AND r.report_id = x.id), (${ofReports('r.scrapped', 'work_report_operation', 'report_id')}), x.scrapped)`,
  ),
  {
    what: 'cost an order is reckoned at',
    sql: `SELECT p.number AS subject, p.planned_cost AS kept,
                 COALESCE((SELECT SUM(k.planned_cost) FROM planned_component k WHERE k.company_id = p.company_id AND k.planned_order_id = p.id), 0)
                 + COALESCE((SELECT SUM(o.planned_cost) FROM planned_operation o WHERE o.company_id = p.company_id AND o.planned_order_id = p.id), 0) AS counted
            FROM planned_order p WHERE p.planned_cost IS NOT NULL HAVING kept <> counted`,
  },
  // L1
  counter(
    'made for an order line',
    'planned_tie',
    "CONCAT((SELECT p.number FROM planned_order p WHERE p.company_id = x.company_id AND p.id = x.planned_order_id), ' for line ', x.order_line_id)",
    'x.made',
    `SELECT SUM(t.made) FROM work_report_tie t JOIN work_report r ON r.company_id = t.company_id AND r.id = t.report_id
      WHERE t.company_id = x.company_id AND t.order_line_id = x.order_line_id AND r.planned_order_id = x.planned_order_id`,
  ),
  {
    what: 'what of an order is for somebody',
    sql: `SELECT p.number AS subject, p.held AS kept, COALESCE(SUM(t.quantity - t.made), 0) AS counted FROM planned_order p
            LEFT JOIN planned_tie t ON t.company_id = p.company_id AND t.planned_order_id = p.id
           GROUP BY p.company_id, p.id HAVING IF(MAX(p.parent_id) IS NULL, kept <> counted, kept < counted)`,
  },
  bound(
    'made for the lines of an order',
    'planned_order',
    'x.number',
    '(SELECT COALESCE(SUM(t.made), 0) FROM planned_tie t WHERE t.company_id = x.company_id AND t.planned_order_id = x.id)',
    'x.finished',
  ),
  // W3: nothing passes an operation that did not pass the one before.
  {
    what: 'pieces that passed an operation before the one before it',
    sql: `SELECT CONCAT(p.number, ' operation ', o.no) AS subject, o.done + o.scrapped AS kept, b.done AS counted
            FROM planned_operation o
            JOIN planned_order p ON p.company_id = o.company_id AND p.id = o.planned_order_id
            JOIN planned_operation b ON b.company_id = o.company_id AND b.planned_order_id = o.planned_order_id
             AND b.no = (SELECT MAX(f.no) FROM planned_operation f WHERE f.company_id = o.company_id
               AND f.planned_order_id = o.planned_order_id AND f.no < o.no)
           WHERE o.done + o.scrapped > b.done`,
    most: true,
  },
  // P1
  {
    what: 'work report taken back',
    sql: `SELECT r.number AS subject, CONCAT(r.good, ' ', r.material_cost, ' ', r.labour_cost, ' ', r.output_cost) AS kept,
                 CONCAT(-o.good, ' ', -o.material_cost, ' ', -o.labour_cost, ' ', -o.output_cost) AS counted
            FROM work_report r JOIN work_report o ON o.company_id = r.company_id AND o.id = r.reverses_id
          HAVING kept <> counted`,
  },
];
