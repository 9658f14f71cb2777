// Says of each file in a list what the compiler's own parser makes of it: a digest of its tree, or its first fault.
import com.sun.source.tree.CompilationUnitTree;
import com.sun.source.util.JavacTask;
import java.nio.charset.StandardCharsets;
import java.nio.file.*;
import java.security.MessageDigest;
import java.util.*;
import javax.tools.*;

public class Trees {
    public static void main(String[] arguments) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        StandardJavaFileManager files = compiler.getStandardFileManager(null, null, StandardCharsets.UTF_8);
        StringBuilder said = new StringBuilder();
        for (String path : Files.readAllLines(Path.of(arguments[0]))) {
            List<String> faults = new ArrayList<>();
            DiagnosticListener<JavaFileObject> listener = fault -> {
                if (fault.getKind() == Diagnostic.Kind.ERROR) {
                    faults.add(fault.getMessage(Locale.ROOT).replace('\n', ' '));
                }
            };
            Iterable<? extends JavaFileObject> file = files.getJavaFileObjects(Path.of(path));
            JavacTask task = (JavacTask) compiler.getTask(null, files, listener, List.of("-proc:none"), null, file);
            MessageDigest digest = MessageDigest.getInstance("SHA-256");
            for (CompilationUnitTree unit : task.parse()) {
                // A tree prints itself in a form of its own, without the whitespace of the source.
                digest.update(unit.toString().getBytes(StandardCharsets.UTF_8));
            }
            String tree = HexFormat.of().formatHex(digest.digest(), 0, 8);
            said.append(faults.isEmpty() ? tree : "error " + faults.get(0)).append('\n');
        }
        System.out.print(said);
    }
}
