/** Values by a device and one of its numbered ways; null is the way of a device that has none to choose from. */
export class ByWay<T> {
  private readonly devices = new Map<string, Map<number | null, T>>();

  get(deviceId: string, way: number | null): T | undefined {
    return this.devices.get(deviceId)?.get(way);
  }

  has(deviceId: string, way: number | null): boolean {
    return this.devices.get(deviceId)?.has(way) ?? false;
  }

  set(deviceId: string, way: number | null, value: T): this {
    const ways = this.devices.get(deviceId) ?? new Map<number | null, T>();
    this.devices.set(deviceId, ways.set(way, value));
    return this;
  }

  /** The value of a way, made when there is none yet. */
  at(deviceId: string, way: number | null, make: () => T): T {
    const known = this.get(deviceId, way);
    if (known !== undefined) return known;
    const value = make();
    this.set(deviceId, way, value);
    return value;
  }

  /** All values, device by device in the order in which they came. */
  values(): T[] {
    return [...this.devices.values()].flatMap((ways) => [...ways.values()]);
  }
}
