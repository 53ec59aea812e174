export * from './binding-operations';
export * from './evaluate-binding';
