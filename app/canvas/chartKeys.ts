/** What keys can do with a chart. */
export interface KeyedChart {
  isPlacing: boolean;
  width: number;
  pan(bars: number): boolean;
  zoom(factor: number): boolean;
  stretch(factor: number): boolean;
  fit(): void;
  showLatest(): void;
  moveCursor(bars: number, up: number, fast: boolean): boolean;
  nudge(ticks: number, bars?: number): boolean;
  anchorHere(): boolean;
  menuHere(): boolean;
}

/** Does what a key means on the chart; false when it means nothing there. */
export function pressKey(
  chart: KeyedChart,
  { key, shiftKey, altKey }: Pick<KeyboardEvent, "key" | "shiftKey" | "altKey">,
): boolean {
  if (altKey)
    return key === "ArrowLeft"
      ? chart.nudge(0, shiftKey ? -10 : -1)
      : key === "ArrowRight" && chart.nudge(0, shiftKey ? 10 : 1);
  const far = shiftKey ? 0.5 : 0.08;
  const sideways = (way: number) =>
    chart.isPlacing ? chart.moveCursor(way, 0, shiftKey) : chart.pan(way * chart.width * far);
  const upwards = (way: number) =>
    chart.isPlacing ? chart.moveCursor(0, way, shiftKey) : chart.nudge(way * (shiftKey ? 10 : 1));
  switch (key) {
    case "ArrowLeft":
      return sideways(-1);
    case "ArrowRight":
      return sideways(1);
    case "ArrowUp":
      return upwards(1);
    case "ArrowDown":
      return upwards(-1);
    case "+":
    case "=":
      return chart.zoom(0.8);
    case "-":
    case "_":
      return chart.zoom(1.25);
    case "[":
      return chart.stretch(1.15);
    case "]":
      return chart.stretch(1 / 1.15);
    case "0":
      chart.fit();
      return true;
    case "Home":
      return chart.pan(-1e9);
    case "End":
      chart.showLatest();
      return true;
    case "Enter":
    case " ":
      return chart.anchorHere() || chart.menuHere();
    default:
      return false;
  }
}
