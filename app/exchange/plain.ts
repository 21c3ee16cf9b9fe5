/** Text that no spreadsheet takes for a formula, on whichever of its lines, nor for keys that were pressed. */
export function plain(text: string): string {
  return text
    .split(/\r\n|[\n\r\v\f\u0085\u2028\u2029]/)
    .map((line) =>
      /^[\s\p{Cc}\p{Cf}]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]|^\p{Cc}/u.test(line) ? `'${line}` : line,
    )
    .join('\n')
}

/** The same text back, as it was before it was made harmless. */
export const unplain = (text: string): string =>
  text.replace(/^'(?=[\s\p{Cc}\p{Cf}]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20])/u, '')
