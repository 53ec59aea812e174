export * from './gltf-reader';
export * from './guess-space';
export * from './intake-error';
export * from './settle-source';
