export * from './arrival-operations';
export * from './clip-operations';
export * from './clip-time';
export * from './cut-clip';
export * from './easing';
export * from './key-operations';
export * from './range-table';
export * from './sampler';
