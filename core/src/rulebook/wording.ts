export { count, figure, nameList } from '../document';
