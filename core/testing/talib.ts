/** Functions of TA-Lib that are compared with: columns by name in, values from the first defined one on out. */
export type TaLib = Record<string, (input: object) => { output: number[] }>;

/** TA-Lib compiled to WebAssembly, talib-web 0.1.3 (npm). */
export async function loadTalib(): Promise<TaLib> {
  const { fetch } = globalThis;
  // Its loader would fetch the file from the disk when it finds a fetch.
  Reflect.deleteProperty(globalThis, "fetch");
  const talib = (await import("talib-web")) as unknown as TaLib & { init(): Promise<unknown> };
  await talib.init();
  globalThis.fetch = fetch;
  return talib;
}
