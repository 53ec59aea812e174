export * from './weights-operations';
