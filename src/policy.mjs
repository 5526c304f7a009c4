/**
 * What a page may load and who may show it. Styles are set by the libraries that place menus and draw the scene.
 * @param {string} scripts which scripts run
 */
export const policy = (scripts) =>
  [
    "default-src 'self'",
    `script-src ${scripts}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "worker-src 'self' blob:",
    "connect-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
