export * from './boxes';
export * from './interpreter';
export * from './operations';
export * from './proofs';
export * from './rules';
