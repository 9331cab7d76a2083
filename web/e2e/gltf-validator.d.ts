declare module 'gltf-validator' {
  interface Report {
    issues: { messages: { severity: number; code: string; message: string }[] };
    info: { totalTriangleCount: number };
  }
  const validator: { validateBytes(bytes: Uint8Array, options?: object): Promise<Report> };
  export default validator;
}
