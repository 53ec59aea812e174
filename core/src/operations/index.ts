export * from './compare-kits';
export * from './mend-all';
export * from './registry';
