/** Words as numbers, in the order in which they are met. */
export class Dictionary {
  readonly words: string[] = [];
  private readonly numbers = new Map<string, number>();
  numberOf(word: string): number {
    let number = this.numbers.get(word);
    if (number === undefined) {
      number = this.words.push(word) - 1;
      this.numbers.set(word, number);
    }
    return number;
  }
}
