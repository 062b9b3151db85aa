import { stepText, type Recipe } from '@/core/finish'

/**
 * How a picture was made, as an XMP packet that any reader of metadata shows: the steps in words, and the recipe itself.
 * Source: ISO 16684-1 (XMP), Dublin Core's description.
 */
export function madeText(recipe: Recipe): string {
  const words = recipe.steps.map(stepText).join('. ')
  return [
    '<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?>',
    '<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">',
    '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:made="urn:nitidus:made"',
    ` made:recipe="${escaped(JSON.stringify(recipe))}">`,
    `<dc:description><rdf:Alt><rdf:li xml:lang="x-default">${escaped(words)}</rdf:li></rdf:Alt></dc:description>`,
    '</rdf:Description></rdf:RDF><?xpacket end="w"?>',
  ].join('')
}

const escaped = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`)
