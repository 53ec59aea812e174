export * from './describe-source';
export * from './gltf-reader';
export * from './guess-space';
export * from './intake-error';
export * from './read-file';
export * from './read-model';
export * from './settle-source';
