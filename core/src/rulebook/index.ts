export { CHECKS } from './checks';
export * from './naming';
export * from './run-checks';
export * from './schema';
export * from './types';
export { count, figure, nameList } from './wording';
