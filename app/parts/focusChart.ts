/** Gives the keys back to the chart that is worked on, where the page has one. */
export function focusChart(): void {
  const charts = document.querySelectorAll<HTMLElement>("[data-chart]");
  const active = [...charts].find((chart) => chart.closest("[data-active]"));
  (active ?? charts.item(0) ?? undefined)?.focus();
}
