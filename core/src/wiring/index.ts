export * from './binding-operations';
export * from './directions';
export * from './evaluate-binding';
export * from './levels';
export * from './read-rows';
export * from './stations';
export * from './table-tools';
export * from './twins';
