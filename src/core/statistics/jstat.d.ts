/** The few functions of the library that are used here; it ships without types of its own. */
declare module 'jstat' {
  interface Distribution {
    inv(p: number, ...parameters: number[]): number;
    cdf(x: number, ...parameters: number[]): number;
  }
  const library: {
    normal: Distribution;
    studentt: Distribution;
    gamma: Distribution;
    chisquare: Distribution;
    gammaln(x: number): number;
  };
  export default library;
}
