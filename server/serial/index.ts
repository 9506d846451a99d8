export { loadStockAndNumbers, type AskedOfNumbers } from './store';
export { keptByNumber, serialsMovedBy, serialsOfOrder, serialsOfWork } from './reads';
export { numbersToWrite } from './write';
