import { remoteAddress, trustedProxies } from './proxies';

const nginx = trustedProxies('127.0.0.1, 10.0.0.0/8, ::1');

test('what is forwarded is believed of trusted proxies alone, and from its end', () => {
  expect(remoteAddress('203.0.113.5', '198.51.100.1', nginx)).toBe('203.0.113.5');
  expect(remoteAddress('127.0.0.1', '198.51.100.1', [])).toBe('127.0.0.1');
  expect(remoteAddress('127.0.0.1', '6.6.6.6, 198.51.100.1', nginx)).toBe('198.51.100.1');
  expect(remoteAddress('::ffff:127.0.0.1', '6.6.6.6, 198.51.100.1, 10.1.2.3', nginx)).toBe('198.51.100.1');
  expect(remoteAddress('::1', '2001:db8::1', nginx)).toBe('2001:db8::1');
  expect(remoteAddress('127.0.0.1', 'rubbish', nginx)).toBe('127.0.0.1');
  expect(remoteAddress('127.0.0.1', undefined, nginx)).toBe('127.0.0.1');
  expect(remoteAddress('127.0.0.1', '198.51.100.1, rubbish', nginx)).toBe('127.0.0.1');
  expect(remoteAddress(undefined, undefined, nginx)).toBe('unknown');
});

test('what is no address is refused by name', () => {
  expect(trustedProxies(undefined)).toEqual([]);
  expect(() => trustedProxies('127.0.0.1, all')).toThrow('has “all” in it');
  expect(() => trustedProxies('10.0.0.0/99')).toThrow('has “10.0.0.0/99” in it');
});
