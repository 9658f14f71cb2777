// Says of each file in a list whether the compiler's own parser accepts it, and counts the nodes of its tree.
import com.sun.source.tree.*;
import com.sun.source.util.*;
import java.net.URI;
import java.nio.file.*;
import java.util.*;
import javax.tools.*;

public class Verdicts {
    public static void main(String[] arguments) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StringBuilder said = new StringBuilder();
        for (String path : Files.readAllLines(Path.of(arguments[0]))) {
            String source = Files.readString(Path.of(path));
            List<String> faults = new ArrayList<>();
            DiagnosticListener<JavaFileObject> listener = fault -> {
                if (fault.getKind() == Diagnostic.Kind.ERROR) {
                    faults.add(fault.getLineNumber() + ": " + fault.getMessage(Locale.ROOT).replace('\n', ' '));
                }
            };
            JavaFileObject file = new SimpleJavaFileObject(URI.create("string:///Any.java"), JavaFileObject.Kind.SOURCE) {
                @Override
                public CharSequence getCharContent(boolean ignored) {
                    return source;
                }

                @Override
                public boolean isNameCompatible(String name, JavaFileObject.Kind kind) {
                    return true;
                }
            };
            Iterable<String> options = List.of("-proc:none");
            JavacTask task = (JavacTask) compiler.getTask(null, null, listener, options, null, List.of(file));
            Map<String, Integer> counts = new TreeMap<>();
            for (CompilationUnitTree unit : task.parse()) {
                if (faults.isEmpty()) {
                    new Counter(counts).scan(unit, null);
                }
            }
            if (faults.isEmpty()) {
                said.append("ok");
                counts.forEach((kind, count) -> said.append(' ').append(kind).append('=').append(count));
            } else {
                said.append("error ").append(faults.get(0));
            }
            said.append('\n');
        }
        System.out.print(said);
    }

    static class Counter extends TreeScanner<Void, Void> {
        private final Map<String, Integer> counts;

        Counter(Map<String, Integer> counts) {
            this.counts = counts;
        }

        private void add(String kind) {
            counts.merge(kind, 1, Integer::sum);
        }

        @Override
        public Void scan(Tree tree, Void nothing) {
            if (tree != null) {
                add(tree.getKind().name());
            }
            return super.scan(tree, nothing);
        }

        // A constant of an enumeration is a field with a value there.
        @Override
        public Void visitVariable(VariableTree tree, Void nothing) {
            if (tree.toString().startsWith("/*public static final*/")) {
                add("CONSTANT");
            }
            return super.visitVariable(tree, nothing);
        }

        // Conditions are in parentheses there.
        @Override
        public Void visitIf(IfTree tree, Void nothing) {
            add("HEAD");
            return super.visitIf(tree, nothing);
        }

        @Override
        public Void visitWhileLoop(WhileLoopTree tree, Void nothing) {
            add("HEAD");
            return super.visitWhileLoop(tree, nothing);
        }

        @Override
        public Void visitDoWhileLoop(DoWhileLoopTree tree, Void nothing) {
            add("HEAD");
            return super.visitDoWhileLoop(tree, nothing);
        }

        @Override
        public Void visitSwitch(SwitchTree tree, Void nothing) {
            add("HEAD");
            return super.visitSwitch(tree, nothing);
        }

        @Override
        public Void visitSwitchExpression(SwitchExpressionTree tree, Void nothing) {
            add("HEAD");
            return super.visitSwitchExpression(tree, nothing);
        }

        @Override
        public Void visitSynchronized(SynchronizedTree tree, Void nothing) {
            add("HEAD");
            return super.visitSynchronized(tree, nothing);
        }
    }
}
