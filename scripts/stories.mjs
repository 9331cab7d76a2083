// Says how the page's stories ended, from what Playwright wrote of them, and adds "passed failed" to a file of counts.
// Usage: node stories.mjs REPORT.json… COUNTS
import { appendFileSync, existsSync, readFileSync } from "node:fs";

const reports = process.argv.slice(2, -1).filter((path) => existsSync(path));
if (reports.length === 0) throw new Error("Playwright wrote no report.");

/** The stories of a suite and of those within it. */
function storiesOf(suite) {
  const own = (suite.specs ?? []).flatMap((spec) =>
    spec.tests.map((test) => ({
      name: `${spec.file} › ${spec.title}`,
      status: test.status,
      results: test.results,
    })),
  );
  return [...own, ...(suite.suites ?? []).flatMap(storiesOf)];
}

const all = reports.map((path) => JSON.parse(readFileSync(path, "utf8")));
const stories = all.flatMap((report) => report.suites.flatMap(storiesOf));
const of = (status) => stories.filter((story) => story.status === status);
const seconds = (story) =>
  story.results.reduce((sum, result) => sum + result.duration, 0) / 1000;
const colours = new RegExp(`${String.fromCharCode(27)}\\[[0-9;]*m`, "g");
const saidBy = (result) =>
  (result.error?.message ?? result.status)
    .replace(colours, "")
    .split("\n")
    .slice(0, 12)
    .join("\n      ");

console.log("The twenty slowest:");
for (const story of stories
  .toSorted((a, b) => seconds(b) - seconds(a))
  .slice(0, 20))
  console.log(`  ${seconds(story).toFixed(1).padStart(6)} s  ${story.name}`);

const strict = process.env.CALM_PIVOT_STRICT === "1";
const again = of("flaky");
if (again.length > 0)
  console.log(
    strict
      ? "Passed on a second try only, which fails them:"
      : "Passed on a second try:",
  );
for (const story of again)
  console.log(`  ${story.name}\n      ${saidBy(story.results[0])}`);

const failed = of("unexpected");
if (failed.length > 0) console.log("Failed:");
for (const story of failed)
  console.log(`  ${story.name}\n      ${saidBy(story.results.at(-1))}`);
for (const story of of("skipped")) console.log(`Skipped: ${story.name}`);
const errors = all.flatMap((report) => report.errors ?? []);
for (const error of errors)
  console.log(`Failed: ${saidBy({ error })}`);

const bad = failed.length + errors.length + (strict ? again.length : 0);
const good = of("expected").length + (strict ? 0 : again.length);
console.log(
  `${stories.length} stories: ${good} passed, ${bad} failed, ${again.length} on a second try`,
);
appendFileSync(process.argv.at(-1), `${good} ${bad}\n`);
