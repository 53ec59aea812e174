export * from './binding-operations';
export * from './directions';
export * from './evaluate-binding';
export * from './table-tools';
