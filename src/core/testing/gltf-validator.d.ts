/** The Khronos validator's part that the tests use. */
declare module 'gltf-validator' {
  interface Report {
    issues: { numErrors: number; messages: { severity: number; code: string; message: string }[] };
  }
  export function validateBytes(bytes: Uint8Array, options?: { maxIssues?: number }): Promise<Report>;
  const validator: { validateBytes: typeof validateBytes };
  export default validator;
}
