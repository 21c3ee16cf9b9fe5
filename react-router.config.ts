import type { Config } from '@react-router/dev/config'

export default {
  appDirectory: 'app',
  ssr: true,
  // All routes are known from the first page on: going somewhere without signal fails in the page, not before it.
  routeDiscovery: { mode: 'initial' },
  future: { v8_middleware: true },
} satisfies Config
