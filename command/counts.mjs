// Adds up what the test runners reported, and closes with "N passed, N failed" on a line of its own.
import { readFileSync } from 'node:fs'

const counts = { passed: 0, failed: 0, skipped: 0 }
for (const file of process.argv.slice(2)) {
  const report = JSON.parse(readFileSync(file, 'utf8'))
  if (report.stats) {
    counts.passed += report.stats.expected + report.stats.flaky
    counts.failed += report.stats.unexpected
    counts.skipped += report.stats.skipped
  } else {
    counts.passed += report.numPassedTests
    counts.failed += report.numFailedTests
    counts.skipped += report.numPendingTests + report.numTodoTests
    // A file that could not even be loaded has no tests to fail.
    counts.failed += report.testResults.filter(
      (f) => f.status === 'failed' && f.assertionResults.length === 0,
    ).length
  }
}
console.log(
  `${counts.passed} passed, ${counts.failed} failed` + (counts.skipped ? `, ${counts.skipped} skipped` : ''),
)
process.exit(counts.failed > 0 || counts.passed === 0 ? 1 : 0)
