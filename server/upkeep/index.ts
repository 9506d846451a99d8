export { keepList } from './lists';
