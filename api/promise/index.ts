export * from './asking';
export * from './planning';
