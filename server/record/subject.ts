/** "12/0b9f..." names the scenario of an edition, for whoever follows it. */
export function subjectOf(edition: number, scenarioId: string): string {
  return `${edition}/${scenarioId}`;
}

export function partsOf(subject: string): { edition: number; scenarioId: string } {
  const at = subject.indexOf("/");
  return { edition: Number(subject.slice(0, at)), scenarioId: subject.slice(at + 1) };
}
