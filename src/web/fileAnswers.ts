/** Headers under which any file can be handed to a browser: saved, never run in our name. */
export const fileHeaders = (file: { name: string; type: string; size: number }): Record<string, string> => ({
  "content-type": file.type,
  "content-length": String(file.size),
  // RFC 6266, with RFC 8187 for names beyond ASCII.
  "content-disposition": `attachment; filename="${file.name.replace(/[^\x20-\x7e]|["\\%]/g, "_")}"; filename*=UTF-8''${encodeURIComponent(file.name).replace(/['()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`)}`,
  "x-content-type-options": "nosniff",
  "content-security-policy": "default-src 'none'; sandbox",
  "cache-control": "private, no-store",
});
