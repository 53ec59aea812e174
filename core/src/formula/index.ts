export * from './formula';
