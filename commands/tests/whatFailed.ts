import { stripVTControlCharacters } from "node:util";

/** What the two runners write of a run, as far as it is read here. */
interface VitestReport {
  numPassedTests: number;
  numFailedTests: number;
  testResults: {
    name: string;
    status: string;
    message: string;
    assertionResults: { fullName: string; status: string; failureMessages: string[] }[];
  }[];
}

interface PlaywrightSuite {
  suites?: PlaywrightSuite[];
  specs: {
    title: string;
    file: string;
    line: number;
    tests: { status: string; results: { error?: { message?: string } }[] }[];
  }[];
}

interface PlaywrightReport {
  stats: { expected: number; unexpected: number; flaky: number };
  suites: PlaywrightSuite[];
}

/** What a run comes to; `told` names what failed, and what passed only when it was tried again. */
export interface Count {
  passed: number;
  failed: number;
  told: string[];
}

/** The beginning of what a test said, without the colours of a terminal. */
const brief = (text = "") => stripVTControlCharacters(text).split("\n").slice(0, 12).join("\n    ").slice(0, 1200);

/** Of a run of the tests without a browser. A file that cannot even be loaded counts no test, and fails. */
export function countVitest(report: VitestReport, status: number): Count {
  const told = report.testResults.flatMap(({ name, status: ended, message, assertionResults }) => {
    const failed = assertionResults.filter((one) => one.status === "failed");
    if (failed.length === 0) return ended === "failed" ? [`FAILED ${name}\n    ${brief(message)}`] : [];
    return failed.map((one) => `FAILED ${name} › ${one.fullName}\n    ${brief(one.failureMessages[0])}`);
  });
  return counted(report.numPassedTests, report.numFailedTests, status, told);
}

/** Of a run of the tests with a browser. */
export function countPlaywright({ stats, suites }: PlaywrightReport, status: number): Count {
  return counted(stats.expected + stats.flaky, stats.unexpected, status, suites.flatMap(toldOf));
}

function toldOf({ suites = [], specs }: PlaywrightSuite): string[] {
  const here = specs.flatMap(({ title, file, line, tests }) =>
    tests
      .filter(({ status }) => status === "unexpected" || status === "flaky")
      .map(({ status, results }) => {
        const how = status === "flaky" ? "PASSED ONLY THE SECOND TIME" : "FAILED";
        return `${how} ${file}:${line} › ${title}\n    ${brief(results.find(({ error }) => error)?.error?.message)}`;
      }),
  );
  return [...here, ...suites.flatMap(toldOf)];
}

/** A runner that ends badly has failed, also where it names no test. */
function counted(passed: number, failed: number, status: number, told: string[]): Count {
  if (failed > 0 || status === 0) return { passed, failed, told };
  return { passed, failed: 1, told: told.length > 0 ? told : [`FAILED: the runner ended with ${status}.`] };
}
