import { readMutated } from "./fuzz.ts";

const [, , seed, count] = process.argv;
console.log(JSON.stringify(readMutated(Number(seed), Number(count))));
