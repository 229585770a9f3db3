#include "formats/c_family/standard_headers.h"

#include <set>

namespace yc::c_family {

bool is_standard_header(std::string_view name) {
  // ISO C and C++, then POSIX and the usual platform headers.
  static const std::set<std::string_view> names = {
      "assert.h", "complex.h", "ctype.h", "errno.h", "fenv.h", "float.h", "inttypes.h", "iso646.h", "limits.h",
      "locale.h", "math.h", "setjmp.h", "signal.h", "stdalign.h", "stdarg.h", "stdatomic.h", "stdbool.h", "stddef.h",
      "stdint.h", "stdio.h", "stdlib.h", "stdnoreturn.h", "string.h", "tgmath.h", "threads.h", "time.h", "uchar.h",
      "wchar.h", "wctype.h", "algorithm", "any", "array", "atomic", "barrier", "bit", "bitset", "cassert", "cctype",
      "cerrno", "cfenv", "cfloat", "charconv", "chrono", "cinttypes", "climits", "clocale", "cmath", "codecvt",
      "compare", "complex", "concepts", "condition_variable", "coroutine", "csetjmp", "csignal", "cstdarg", "cstddef",
      "cstdint", "cstdio", "cstdlib", "cstring", "ctime", "cuchar", "cwchar", "cwctype", "deque", "exception",
      "execution", "expected", "filesystem", "format", "forward_list", "fstream", "functional", "future",
      "initializer_list", "iomanip", "ios", "iosfwd", "iostream", "istream", "iterator", "latch", "limits", "list",
      "locale", "map", "memory", "memory_resource", "mutex", "new", "numbers", "numeric", "optional", "ostream",
      "queue", "random", "ranges", "ratio", "regex", "scoped_allocator", "semaphore", "set", "shared_mutex",
      "source_location", "span", "sstream", "stack", "stdexcept", "stop_token", "streambuf", "string", "string_view",
      "strstream", "syncstream", "system_error", "thread", "tuple", "type_traits", "typeindex", "typeinfo",
      "unordered_map", "unordered_set", "utility", "valarray", "variant", "vector", "version",
      "unistd.h", "fcntl.h", "dirent.h", "pthread.h", "sched.h", "semaphore.h", "termios.h", "syslog.h", "poll.h",
      "netdb.h", "pwd.h", "grp.h", "glob.h", "fnmatch.h", "getopt.h", "dlfcn.h", "malloc.h", "alloca.h", "strings.h",
      "regex.h", "spawn.h", "utime.h", "libgen.h", "langinfo.h", "iconv.h", "wordexp.h", "ucontext.h", "endian.h",
      "byteswap.h", "features.h", "memory.h", "values.h", "search.h", "stropts.h", "ulimit.h", "utmp.h",
      "windows.h", "winsock2.h", "ws2tcpip.h", "io.h", "direct.h", "process.h", "conio.h", "tchar.h", "crtdbg.h",
      "intrin.h", "immintrin.h", "xmmintrin.h", "emmintrin.h", "arm_neon.h", "cpuid.h", "TargetConditionals.h"};
  if (names.contains(name)) return true;
  for (std::string_view head : {"sys/", "net/if", "netinet/", "arpa/", "linux/", "asm/", "bits/", "mach/", "machine/"}) {
    if (name.substr(0, head.size()) == head) return true;
  }
  return false;
}

}  // namespace yc::c_family
