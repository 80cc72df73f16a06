import { expect, it } from 'vitest';
import { plainText } from './rich-text.ts';

it.each([
  ['<body><p>one <b>two</b></p><p>three &lt;4&gt;</p></body>', 'one two\nthree <4>'],
  ['one<br/>two<BR>three', 'one\ntwo\nthree'],
  ['no marks', 'no marks'],
  ['cut <b', 'cut'],
  ['', ''],
])('%s', (rich, plain) => expect(plainText(rich)).toBe(plain));
