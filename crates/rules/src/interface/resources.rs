//! What has to be closed, by language: files, connections, streams.

/// What a library opens, and how it is closed.
#[derive(Debug)]
pub struct Resources {
    /// Types that open what their constructor is given, and functions that open something, as calls have them.
    pub openers: &'static [&'static str],
    /// Types that open what they are given by its name, and hold it where they are given a stream.
    pub openers_by_name: &'static [&'static str],
    /// Types that hold what they are given first: who closes them closes it.
    pub wrappers: &'static [&'static str],
    /// Of a word in methods that close, in small letters.
    pub closing_words: &'static [&'static str],
    /// What to do.
    pub advice: &'static str,
}

/// Nothing is known.
pub(super) const NONE: Resources =
    Resources { openers: &[], openers_by_name: &[], wrappers: &[], closing_words: &[], advice: "" };

/// The standard library of Go.
pub(super) const GO: Resources = Resources {
    openers: &[
        "net.Dial",
        "net.DialTimeout",
        "net.Listen",
        "os.Create",
        "os.CreateTemp",
        "os.Open",
        "os.OpenFile",
        "zip.OpenReader",
    ],
    closing_words: &["close"],
    advice: "close it with defer, behind the check of its error",
    ..NONE
};

/// The library of Java SE 21.
pub(super) const JAVA: Resources = Resources {
    openers: &[
        "FileChannel.open",
        "FileInputStream",
        "FileOutputStream",
        "FileReader",
        "FileWriter",
        "Files.find",
        "Files.lines",
        "Files.list",
        "Files.newBufferedReader",
        "Files.newBufferedWriter",
        "Files.newByteChannel",
        "Files.newDirectoryStream",
        "Files.newInputStream",
        "Files.newOutputStream",
        "Files.walk",
        "JarFile",
        "RandomAccessFile",
        "ServerSocket",
        "ZipFile",
    ],
    wrappers: &[
        "BufferedInputStream",
        "BufferedOutputStream",
        "BufferedReader",
        "BufferedWriter",
        "DataInputStream",
        "DataOutputStream",
        "GZIPInputStream",
        "GZIPOutputStream",
        "InputStreamReader",
        "LineNumberReader",
        "ObjectInputStream",
        "ObjectOutputStream",
        "OutputStreamWriter",
        "PrintStream",
        "PrintWriter",
        "Scanner",
        "ZipInputStream",
        "ZipOutputStream",
    ],
    // Who closes the channel of a file closes the file.
    closing_words: &["close", "getchannel"],
    advice: "open it in the head of a try, which closes it",
    ..NONE
};

/// The library of .NET 9.
pub(super) const CSHARP: Resources = Resources {
    openers: &[
        "File.AppendText",
        "File.Create",
        "File.CreateText",
        "File.Open",
        "File.OpenRead",
        "File.OpenText",
        "File.OpenWrite",
        "FileStream",
        "ZipFile.Open",
        "ZipFile.OpenRead",
    ],
    openers_by_name: &["StreamReader", "StreamWriter"],
    wrappers: &[
        "BinaryReader",
        "BinaryWriter",
        "BufferedStream",
        "GZipStream",
        "StreamReader",
        "StreamWriter",
        "ZipArchive",
    ],
    closing_words: &["close", "dispose"],
    advice: "declare it with using, which closes it",
};
