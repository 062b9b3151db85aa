/** What tests use of the validator of the format's makers, which comes without types. */
declare module 'gltf-validator' {
  export function validateBytes(bytes: Uint8Array): Promise<{
    issues: { numErrors: number; numWarnings: number }
    info: { resources: { mimeType: string }[] }
  }>
}
