import { BufferAttribute } from 'three';
import { uploadAll, uploadSome } from './upload';

test('parts go alone, but never in the place of a whole that has not gone yet', () => {
  const attribute = new BufferAttribute(new Float32Array(64), 16);
  uploadSome(attribute, 16, 16);
  expect(attribute.updateRanges).toEqual([{ start: 16, count: 16 }]);
  uploadAll(attribute);
  uploadSome(attribute, 0, 16);
  expect(attribute.updateRanges).toEqual([]);
  // The card has it.
  attribute.onUploadCallback();
  uploadSome(attribute, 32, 16);
  expect(attribute.updateRanges).toEqual([{ start: 32, count: 16 }]);
});
