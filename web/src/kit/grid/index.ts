export type { CellEdit, GridColumn } from './columns';
export { Grid } from './grid';
