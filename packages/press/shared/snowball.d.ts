declare module 'snowball-stemmers' {
  interface Stemmer {
    stem(word: string): string;
  }
  const snowball: { newStemmer(language: string): Stemmer };
  export default snowball;
}
