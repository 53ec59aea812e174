export * from './clip-operations';
export * from './clip-time';
export * from './easing';
export * from './key-operations';
export * from './sampler';
