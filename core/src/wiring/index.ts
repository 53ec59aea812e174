export * from './binding-operations';
export * from './directions';
export * from './evaluate-binding';
export * from './read-rows';
export * from './stations';
export * from './table-tools';
