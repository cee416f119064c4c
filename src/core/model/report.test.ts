import { remarksOf, withoutRemarks } from './report';

const words = {
  traffic: { before: 'As IK promised.', after: '' },
  changes: { before: '', after: 'More in autumn.' },
};

test('remarks are listed with the part they stand by, empty ones left out', () => {
  expect(remarksOf(words)).toEqual([
    { part: 'traffic', place: 'before', text: 'As IK promised.' },
    { part: 'changes', place: 'after', text: 'More in autumn.' },
  ]);
  expect(remarksOf({})).toEqual([]);
});

test('a remark that is left out is gone, the others stay', () => {
  expect(withoutRemarks(words, [{ part: 'traffic', place: 'before' }])).toEqual({
    traffic: { before: '', after: '' },
    changes: { before: '', after: 'More in autumn.' },
  });
  expect(withoutRemarks(words, [])).toEqual(words);
});
