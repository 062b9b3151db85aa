/** A text without case and accents, so that “astige” finds “Ästige”; SQL has it as the function `plain`, since SQLite's own `lower` knows ASCII only. */
export const plainText = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
