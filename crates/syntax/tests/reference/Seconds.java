// Seconds LIST: how many seconds the compiler's parser takes for the files of a list, read before, once it is warm.
import com.sun.source.util.JavacTask;
import java.nio.file.*;
import java.util.*;
import javax.tools.*;

public class Seconds {
    public static void main(String[] arguments) throws Exception {
        List<JavaFileObject> sources = new ArrayList<>();
        for (String line : Files.readAllLines(Path.of(arguments[0]))) {
            sources.add(new Source(Path.of(line)));
        }
        parse(sources);
        long start = System.nanoTime();
        parse(sources);
        System.out.println((System.nanoTime() - start) / 1e9);
    }

    private static void parse(List<JavaFileObject> sources) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        List<String> options = List.of("-proc:none", "-nowarn");
        ((JavacTask) compiler.getTask(null, null, fault -> { }, options, null, sources)).parse();
    }

    static class Source extends SimpleJavaFileObject {
        private final String text;

        Source(Path path) throws Exception {
            super(path.toUri(), Kind.SOURCE);
            text = Files.readString(path);
        }

        @Override
        public CharSequence getCharContent(boolean ignored) {
            return text;
        }
    }
}
