import { expect, it } from 'vitest';
import { leadsOutside, webAddress } from './web-address.ts';

it.each([
  'https://brinewell.example/plan?level=2#low',
  'mailto:harbour@brinewell.example',
  'tel:+4912345',
  'https://brinewell.example',
  'https://[2001:db8::1]/plan',
])('leaves what is well written as it is: %s', (address) => {
  expect(new URL(webAddress(address)!).href).toBe(new URL(address).href);
});

// RFC 3986, 2.2 and 3.3: brackets stand only around addresses of hosts; what is not ASCII, spaces
// and lone percent signs are encoded.
it.each([
  ['https://brinewell.example/[tide]/', 'https://brinewell.example/%5Btide%5D/'],
  ['https://brinewell.example/low tide', 'https://brinewell.example/low%20tide'],
  ['https://brinewell.example/høj', 'https://brinewell.example/h%C3%B8j'],
  ['https://brinewell.example/100%', 'https://brinewell.example/100%25'],
  ['https://brinewell.example/a?b=[1|2]', 'https://brinewell.example/a?b=%5B1%7C2%5D'],
  ['https://[2001:db8::1]/[a]', 'https://[2001:db8::1]/%5Ba%5D'],
])('encodes what an address may not have: %s', (written, address) => {
  expect(webAddress(written)).toBe(address);
});

it.each(['https://', 'http://a b/', 'https://[x]/', 'https://brinewell.example:port/'])(
  'gives nothing for what cannot be read: %s',
  (address) => {
    expect(leadsOutside(address)).toBe(true);
    expect(webAddress(address)).toBeUndefined();
  },
);
