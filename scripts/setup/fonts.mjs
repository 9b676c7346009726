import { ensureDebianPackages } from './packages.mjs';

/** Where Debian's Noto packages put the fonts of scripts that our own do not have. */
export const TEXT_FONTS = {
  'fonts-noto-core': [
    '/usr/share/fonts/truetype/noto/NotoSansHebrew-Regular.ttf',
    '/usr/share/fonts/truetype/noto/NotoSansArabic-Regular.ttf',
  ],
  'fonts-noto-cjk': ['/usr/share/fonts/opentype/noto/NotoSansCJK-Regular.ttc'],
};

/** Fonts for titles in Hebrew, Arabic, Chinese, Japanese and Korean; all else is printed without them. */
export function ensureTextFonts({ optional }) {
  ensureDebianPackages(TEXT_FONTS, { optional });
}
