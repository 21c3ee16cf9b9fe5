export const port = Number(process.env.KEG_PORT ?? 4600)
export const host = process.env.KEG_HOST ?? '127.0.0.1'
