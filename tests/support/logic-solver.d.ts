/** The part of logic-solver that the tests use. */
declare module 'logic-solver' {
  namespace Logic {
    type Formula = string | object;
    function and(operands: readonly Formula[]): Formula;
    function or(operands: readonly Formula[]): Formula;
    function not(operand: Formula): Formula;
    function xor(a: Formula, b: Formula): Formula;
    class Solver {
      require(...formulas: readonly Formula[]): void;
      solve(): object | null;
    }
  }
  export default Logic;
}
