/** Headers of every answer, pages and files alike: nothing is sniffed, framed, or read from another site. */
export const PLAIN_HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'permissions-policy': 'camera=(), geolocation=(), payment=(), usb=()',
};
