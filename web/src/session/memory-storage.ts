/** For tests: a browser's store, its keys being its own fields. */
export class MemoryStorage {
  getItem(key: string): string | null {
    return Object.hasOwn(this, key) ? (this as unknown as Record<string, string>)[key] : null;
  }
  setItem(key: string, value: string): void {
    Object.assign(this, { [key]: value });
  }
  removeItem(key: string): void {
    delete (this as unknown as Record<string, string>)[key];
  }
}
