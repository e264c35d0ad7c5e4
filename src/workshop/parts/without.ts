/** An object without one of its properties. */
export function without<T extends object, K extends keyof T>(o: T, key: K): Omit<T, K> {
  const { [key]: _gone, ...rest } = o;
  return rest;
}
