export {
  AGREEMENT_COLUMNS,
  agreementRows,
  decideImport,
  importRefusals,
  type ExportedAgreement,
  type ImportEffects,
  type ImportGround,
  type ImportProblem,
} from './agreements';
