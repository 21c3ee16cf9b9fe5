/** An id as everything here writes it. */
export const ID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/

export const isId = (text: string | undefined): text is string => text !== undefined && ID.test(text)
