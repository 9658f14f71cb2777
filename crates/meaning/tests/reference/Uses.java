// Says of each file in a list, sources of a module of the library, what the names in it mean for the compiler: a place in the file that
// declares it, or -1 for one elsewhere.
import com.sun.source.tree.*;
import com.sun.source.util.*;
import com.sun.tools.javac.code.Symbol;
import com.sun.tools.javac.tree.JCTree;
import java.nio.file.*;
import java.util.*;
import javax.lang.model.element.ElementKind;
import javax.tools.*;

public class Uses {
    public static void main(String[] arguments) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        List<Path> paths = new ArrayList<>();
        for (String line : Files.readAllLines(Path.of(arguments[0]))) {
            paths.add(Path.of(line));
        }
        List<String> options = List.of("-proc:none", "-nowarn", "--patch-module", arguments[1] + "=" + arguments[2]);
        StandardJavaFileManager files = compiler.getStandardFileManager(null, null, null);
        JavacTask task = (JavacTask) compiler.getTask(null, files, fault -> { }, options, null, files.getJavaFileObjectsFromPaths(paths));
        List<CompilationUnitTree> units = new ArrayList<>();
        task.parse().forEach(units::add);
        task.analyze();
        StringBuilder said = new StringBuilder();
        for (CompilationUnitTree unit : units) {
            String source = unit.getSourceFile().getCharContent(true).toString();
            Declarations declarations = new Declarations(source);
            declarations.scan(unit, null);
            Names names = new Names(source, unit, Trees.instance(task).getSourcePositions(), declarations.places);
            names.scan(unit, null);
            said.append(Path.of(unit.getSourceFile().toUri()));
            names.found.forEach((at, declared) -> said.append(' ').append(at).append(':').append(declared));
            said.append('\n');
        }
        System.out.print(said);
    }

    static class Declarations extends TreeScanner<Void, Void> {
        final Map<Object, Integer> places = new HashMap<>();
        private final String source;

        Declarations(String source) {
            this.source = source;
        }

        @Override
        public Void visitVariable(VariableTree tree, Void nothing) {
            places.putIfAbsent(((JCTree.JCVariableDecl) tree).sym, ((JCTree.JCVariableDecl) tree).pos);
            return super.visitVariable(tree, nothing);
        }

        @Override
        public Void visitMethod(MethodTree tree, Void nothing) {
            places.putIfAbsent(((JCTree.JCMethodDecl) tree).sym, ((JCTree.JCMethodDecl) tree).pos);
            return super.visitMethod(tree, nothing);
        }

        @Override
        public Void visitClass(ClassTree tree, Void nothing) {
            JCTree.JCClassDecl type = (JCTree.JCClassDecl) tree;
            places.putIfAbsent(type.sym, source.indexOf(tree.getSimpleName().toString(), type.pos));
            return super.visitClass(tree, nothing);
        }

        @Override
        public Void visitTypeParameter(TypeParameterTree tree, Void nothing) {
            JCTree.JCTypeParameter parameter = (JCTree.JCTypeParameter) tree;
            if (parameter.type != null) {
                places.putIfAbsent(parameter.type.tsym, source.indexOf(tree.getName().toString(), parameter.pos));
            }
            return super.visitTypeParameter(tree, nothing);
        }
    }

    static class Names extends TreeScanner<Void, Void> {
        final Map<Integer, Integer> found = new TreeMap<>();
        private final String source;
        private final CompilationUnitTree unit;
        private final SourcePositions positions;
        private final Map<Object, Integer> places;

        Names(String source, CompilationUnitTree unit, SourcePositions positions, Map<Object, Integer> places) {
            this.source = source;
            this.unit = unit;
            this.positions = positions;
            this.places = places;
        }

        private void add(int at, CharSequence name, Symbol symbol) {
            if (symbol == null || at < 0 || !source.startsWith(name.toString(), at)) {
                return;
            }
            ElementKind kind = symbol.getKind();
            if (kind == ElementKind.PACKAGE || kind == ElementKind.OTHER || symbol.type != null && symbol.type.isErroneous()) {
                return;
            }
            found.putIfAbsent(at, places.getOrDefault(symbol, -1));
        }

        @Override
        public Void visitIdentifier(IdentifierTree tree, Void nothing) {
            String name = tree.getName().toString();
            if (!name.equals("this") && !name.equals("super")) {
                add((int) positions.getStartPosition(unit, tree), name, ((JCTree.JCIdent) tree).sym);
            }
            return super.visitIdentifier(tree, nothing);
        }

        @Override
        public Void visitMemberSelect(MemberSelectTree tree, Void nothing) {
            String name = tree.getIdentifier().toString();
            if (tree.getExpression() instanceof IdentifierTree) {
                int end = (int) positions.getEndPosition(unit, tree);
                add(end - name.length(), name, ((JCTree.JCFieldAccess) tree).sym);
            }
            return super.visitMemberSelect(tree, nothing);
        }

        // Imports mean nothing in the file.
        @Override
        public Void visitImport(ImportTree tree, Void nothing) {
            return nothing;
        }

        @Override
        public Void visitPackage(PackageTree tree, Void nothing) {
            return scan(tree.getAnnotations(), nothing);
        }
    }
}
