export * from './derived-readers';
export * from './formula';
export * from './lever-key';
