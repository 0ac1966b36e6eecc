import type { SignName } from './design.js';

/**
 * Signs of our own drawing, each one path on a square of 20 by 20 (SVG 2, section 9.3), filled by the even-odd rule: what
 * lies inside twice is left open.
 */
export const signPaths: Readonly<Record<Exclude<SignName, 'none'>, string>> = {
  info: 'M10 1A9 9 0 1 1 10 19A9 9 0 1 1 10 1ZM8.9 8.4H11.1V15H8.9ZM8.8 5H11.2V7.2H8.8Z',
  bulb: 'M10 1.5A6 6 0 0 1 13.2 12.6V14H6.8V12.6A6 6 0 0 1 10 1.5ZM7.2 15H12.8V16.4H7.2ZM8.2 17.2H11.8V18.6H8.2Z',
  star: 'M10 1.4L12.5 7.1L18.7 7.7L14 11.8L15.4 17.9L10 14.7L4.6 17.9L6 11.8L1.3 7.7L7.5 7.1Z',
  exclamation: 'M10 1A9 9 0 1 1 10 19A9 9 0 1 1 10 1ZM8.9 4.8H11.1L10.8 11.6H9.2ZM8.9 13H11.1V15.2H8.9Z',
  triangle: 'M10 1.6L19.2 18.2H0.8ZM9 7.4H11L10.7 13H9.3ZM9 14.2H11V16.2H9Z',
  bolt: 'M10 1.6L19.2 18.2H0.8ZM10.9 6.6L7 12.6H9.4L8.5 16.6L12.8 10.8H10.3Z',
  stop: 'M6.3 1H13.7L19 6.3V13.7L13.7 19H6.3L1 13.7V6.3ZM4.6 8.6H15.4V11.4H4.6Z',
};
