/** What an object holds under a name of the owner's: its own, nothing that every object has. */
export function ownOf<T>(object: Readonly<Record<string, T>>, name: string): T | undefined {
  return Object.hasOwn(object, name) ? object[name] : undefined;
}
