export { CHECKS } from './checks';
export * from './name-pattern';
export * from './naming';
export * from './sides';
export * from './check-runner';
export * from './schema';
export * from './types';
export { count, figure, nameList } from './wording';
