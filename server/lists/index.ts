export { keepList } from './lists';
export { bringInQueue } from './bring-in/work';
