import { chromium, type Browser } from 'playwright-core';
import { CHROMIUM } from '../scripts/lib/chromium.mjs';

export function openBrowser(): Promise<Browser> {
  return chromium.launch(CHROMIUM);
}
