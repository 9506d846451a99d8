export { decided, type Decision } from './decision';
export { refuse, sentenceOf, sentences, type Refusal, type RefusalCode } from './sentences';
