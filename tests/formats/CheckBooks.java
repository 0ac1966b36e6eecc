import com.adobe.epubcheck.tool.EpubChecker;
import java.util.stream.Stream;

/** Checks several EPUBs in one process: beginning one takes longer than checking a book. Ends badly where one has a fault. */
public class CheckBooks {
    public static void main(String[] paths) {
        long faulty = Stream.of(paths).filter(path -> new EpubChecker().run(new String[] {"--quiet", path}) != 0).count();
        System.exit(faulty == 0 ? 0 : 1);
    }
}
