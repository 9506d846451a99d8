export { loadToMake, withWork, writeWork, type MadeLine } from './for-lines';
export { beyondStatements, loadComing, loadGivenBack, writeGivenBack } from './given-back';
export { assemblyToWrite, loadAssembledWith, loadAssemblies, touchedByAssembly } from './assemble';
export { lateWorks, layLate } from './lay';
export { takenBack } from './take-back';
export { workPosts, type ReportsToWrite } from './report';
export { partsOfOne } from './missing';
