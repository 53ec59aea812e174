export * from './conform';
export * from './linear';
export * from './noise';
export * from './pose';
export * from './space';
export * from './surfaces';
export * from './transform-mesh';
export * from './vertices';
