/** Median milliseconds of a piece of work over several runs, the first ones left out. */
export function measure(runs: number, work: () => void): number {
  const times: number[] = [];
  for (let run = 0; run < runs + 3; run++) {
    const began = performance.now();
    work();
    if (run >= 3) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? Number.NaN;
}

export function line(what: string, value: string): void {
  process.stdout.write(`${what.padEnd(76)} ${value}\n`);
}
