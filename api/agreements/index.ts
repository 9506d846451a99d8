export * from './shapes';
export * from './acts';
