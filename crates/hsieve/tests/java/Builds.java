// Compiles the sources below each folder in a list, runs the program among them, and says what it put out: a line each, in which line ends
// are written as "\n". What does not compile says what the compiler says.
import java.io.*;
import java.net.*;
import java.nio.file.*;
import java.util.*;
import java.util.stream.*;
import javax.tools.*;

public class Builds {
    public static void main(String[] arguments) throws Exception {
        StringBuilder said = new StringBuilder();
        for (String folder : Files.readAllLines(Path.of(arguments[0]))) {
            said.append(of(Path.of(folder)).replace("\n", "\\n")).append('\n');
        }
        System.out.print(said);
    }

    private static String of(Path folder) throws Exception {
        JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
        List<Path> sources;
        try (Stream<Path> below = Files.walk(folder)) {
            sources = below.filter(path -> path.toString().endsWith(".java")).sorted().collect(Collectors.toList());
        }
        Path classes = Files.createTempDirectory("classes");
        StringWriter complaints = new StringWriter();
        List<String> options = List.of("-proc:none", "-d", classes.toString());
        boolean built;
        try (StandardJavaFileManager files = compiler.getStandardFileManager(null, null, null)) {
            built = compiler.getTask(complaints, files, null, options, null, files.getJavaFileObjectsFromPaths(sources)).call();
        }
        if (!built) {
            remove(classes);
            return "error: " + complaints;
        }
        PrintStream around = System.out;
        ByteArrayOutputStream put = new ByteArrayOutputStream();
        try (URLClassLoader loader = new URLClassLoader(new URL[] {classes.toUri().toURL()})) {
            System.setOut(new PrintStream(put, true));
            for (Path source : sources) {
                if (Files.readString(source).contains("static void main(")) {
                    String path = folder.relativize(source).toString().replace(".java", "").replace(File.separatorChar, '.');
                    loader.loadClass(path).getMethod("main", String[].class).invoke(null, (Object) new String[0]);
                }
            }
        } finally {
            System.setOut(around);
            remove(classes);
        }
        return put.toString();
    }

    private static void remove(Path folder) throws Exception {
        try (Stream<Path> below = Files.walk(folder)) {
            for (Path path : below.sorted(Comparator.reverseOrder()).collect(Collectors.toList())) {
                Files.delete(path);
            }
        }
    }
}
