export { loadToMake, withWork, writeWork, type MadeLine } from './for-lines';
export { beyondStatements, comingRead, loadGivenBack, writeGivenBack } from './given-back';
export {
  assembliesOf,
  assembliesRead,
  assemblyToWrite,
  loadAssembledWith,
  loadAssemblies,
  touchedByAssembly,
  type Assembly,
} from './assemble';
export { lateWorks, layLate } from './lay';
export { takenBack } from './take-back';
export { workPosts, type ReportsToWrite } from './report';
export { partsOfOne } from './missing';
