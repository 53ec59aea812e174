export { asPlayed, type AsPlayed } from './as-played';
export * from './bake';
export * from './kit-archive';
export * from './manifest';
export * from './pack-kit';
export * from './read-bindings-table';
export * from './read-package';
export * from './write-glb';
export * from './zip';
