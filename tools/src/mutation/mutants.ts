import ts from 'typescript';

/** One small fault that can be put into a source. */
export interface Mutant {
  /** Path from the folder of the project. */
  readonly file: string;
  /** 1-based. */
  readonly line: number;
  readonly start: number;
  readonly end: number;
  readonly before: string;
  readonly after: string;
}

const OTHERWISE: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.LessThanToken]: '<=',
  [ts.SyntaxKind.LessThanEqualsToken]: '<',
  [ts.SyntaxKind.GreaterThanToken]: '>=',
  [ts.SyntaxKind.GreaterThanEqualsToken]: '>',
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: '!==',
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: '===',
  [ts.SyntaxKind.PlusToken]: '-',
  [ts.SyntaxKind.MinusToken]: '+',
  [ts.SyntaxKind.AsteriskToken]: '/',
  [ts.SyntaxKind.SlashToken]: '*',
  [ts.SyntaxKind.AmpersandAmpersandToken]: '||',
  [ts.SyntaxKind.BarBarToken]: '&&',
};

/**
 * The small faults that can be put into a source: an operator for its neighbour, a condition turned round, a number one
 * more, true for false, a statement left out. Texts, types and imports stay.
 */
export function mutantsOf(file: string, source: string): Mutant[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.ES2023, true);
  const mutants: Mutant[] = [];
  const add = (node: ts.Node, after: string): void => {
    const start = node.getStart(tree);
    mutants.push({
      file,
      line: tree.getLineAndCharacterOfPosition(start).line + 1,
      start,
      end: node.getEnd(),
      before: source.slice(start, node.getEnd()),
      after,
    });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const other = OTHERWISE[node.operatorToken.kind];
      const joinsText =
        node.operatorToken.kind === ts.SyntaxKind.PlusToken && (isText(node.left) || isText(node.right));
      if (other && !joinsText) add(node.operatorToken, other);
    }
    if (ts.isIfStatement(node)) add(node.expression, `!(${node.expression.getText(tree)})`);
    if (ts.isConditionalExpression(node)) add(node.condition, `!(${node.condition.getText(tree)})`);
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add(node, node.operand.getText(tree));
    if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent)) add(node, `(${node.text} + 1)`);
    if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression)) add(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return mutants;
}

const isText = (node: ts.Node): boolean => ts.isStringLiteralLike(node) || ts.isTemplateExpression(node);

export const withMutant = (source: string, { start, end, after }: Mutant): string =>
  source.slice(0, start) + after + source.slice(end);

/** As many as asked for, spread evenly over all, the same ones each time. */
export function sample<T>(all: readonly T[], count: number): T[] {
  if (all.length <= count) return [...all];
  return Array.from({ length: count }, (_, n) => all[Math.floor(((n + 0.5) * all.length) / count)]!);
}
