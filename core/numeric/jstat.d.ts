declare module "jstat" {
  const jstat: {
    studentt: { inv(share: number, freedom: number): number };
    normal: { cdf(z: number, mean: number, sd: number): number };
  };
  export default jstat;
}
