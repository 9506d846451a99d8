export { loadStockAndNumbers, type AskedOfNumbers } from './store';
export { keptByNumber, named, serialsMovedBy, serialsOfOrder, serialsOfWork } from './reads';
export { numbersToWrite } from './write';
