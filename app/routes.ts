import { index, layout, prefix, route, type RouteConfig } from '@react-router/dev/routes'

export default [
  route('sign-in', 'routes/door/sign-in.tsx'),
  route('first-run', 'routes/door/first-run.tsx'),
  route('sign-out', 'routes/door/sign-out.ts'),
  ...prefix('api/v1', [
    route('calc/:tool', 'routes/api/calc.ts'),
    route('openapi.json', 'routes/api/openapi.ts'),
  ]),
  route('api/*', 'routes/api/unknown.ts'),
  layout('routes/frame/frame.tsx', { id: 'frame' }, [
    index('routes/bench/bench.tsx'),
    ...prefix('jobs', [
      index('routes/jobs/jobs.tsx'),
      route('new', 'routes/jobs/new/new.tsx'),
      route(':jobId', 'routes/job/job.tsx'),
      route(':jobId/tape', 'routes/job/tape-resource.ts'),
      route(':jobId/label', 'routes/job/label.tsx'),
      route(':jobId/report', 'routes/job/report.tsx'),
    ]),
    ...prefix('cylinders', [
      index('routes/cylinders/rack.tsx'),
      route('new', 'routes/cylinders/new.tsx'),
      route('find', 'routes/cylinders/find.ts'),
      route(':cylinderId', 'routes/cylinders/cylinder.tsx'),
      route(':cylinderId/change', 'routes/cylinders/change.tsx'),
    ]),
    ...prefix('systems', [
      index('routes/systems/systems.tsx'),
      route('new', 'routes/systems/new.tsx'),
      route('find', 'routes/systems/find.ts'),
      route(':systemId', 'routes/systems/system.tsx'),
      route(':systemId/change', 'routes/systems/change.tsx'),
    ]),
    ...prefix('slide-rule', [
      index('routes/slide-rule/tools.tsx'),
      route(':tool', 'routes/slide-rule/tool.tsx'),
    ]),
    route('find', 'routes/frame/find.ts'),
    route('ledger', 'routes/ledger/ledger.tsx'),
    route('ledger.csv', 'routes/ledger/csv.ts'),
    route('ledger/month', 'routes/ledger/month.tsx'),
    route('ledger/month.csv', 'routes/ledger/month-csv.ts'),
    route('settings', 'routes/settings/settings.tsx'),
    route('events', 'routes/frame/events.ts'),
    route('clocks', 'routes/frame/clocks.ts'),
  ]),
  route('*', 'routes/door/not-found.tsx'),
] satisfies RouteConfig
