export { keepList, openList } from './lists';
export { findNamed } from './named';
