/* Preloaded into the program under test: lets the N-th call that changes a disk fail, or kills the process there.

   FAULT_AT    the number of the call, from 1
   FAULT_KIND  "kill", or the number of an errno
   FAULT_FLAG  a file that is made when that call was reached

   Calls on standard streams do not count. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdarg.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <time.h>
#include <unistd.h>

static long calls = 0;

/* Whether the call that is about to be made shall fail; then errno is set. */
static int faulted(void) {
  const char* at = getenv("FAULT_AT");
  if (!at || __atomic_add_fetch(&calls, 1, __ATOMIC_SEQ_CST) != atol(at)) return 0;
  const char* flag = getenv("FAULT_FLAG");
  if (flag) syscall(SYS_mknodat, AT_FDCWD, flag, S_IFREG | 0644, 0);
  const char* kind = getenv("FAULT_KIND");
  if (!kind || strcmp(kind, "kill") == 0) kill(getpid(), SIGKILL);
  errno = atoi(kind);
  return 1;
}

#define NEXT(name) ((__typeof__(&name))dlsym(RTLD_NEXT, #name))
#define WRITES(flags) (((flags) & O_CREAT) != 0 || ((flags) & O_ACCMODE) != O_RDONLY)

#define OPEN(name)                                   \
  int name(const char* path, int flags, ...) {       \
    va_list list;                                    \
    va_start(list, flags);                           \
    mode_t mode = va_arg(list, mode_t);              \
    va_end(list);                                    \
    if (WRITES(flags) && faulted()) return -1;       \
    return NEXT(name)(path, flags, mode);            \
  }
#define OPENAT(name)                                        \
  int name(int folder, const char* path, int flags, ...) {  \
    va_list list;                                           \
    va_start(list, flags);                                  \
    mode_t mode = va_arg(list, mode_t);                     \
    va_end(list);                                           \
    if (WRITES(flags) && faulted()) return -1;              \
    return NEXT(name)(folder, path, flags, mode);           \
  }
OPEN(open)
OPEN(open64)
OPENAT(openat)
OPENAT(openat64)

ssize_t write(int file, const void* bytes, size_t size) {
  if (file > 2 && faulted()) return -1;
  return NEXT(write)(file, bytes, size);
}
ssize_t pwrite(int file, const void* bytes, size_t size, off_t at) {
  return faulted() ? -1 : NEXT(pwrite)(file, bytes, size, at);
}
ssize_t pwrite64(int file, const void* bytes, size_t size, off64_t at) {
  return faulted() ? -1 : NEXT(pwrite64)(file, bytes, size, at);
}

#define CALL(name, parameters, arguments) \
  int name parameters { return faulted() ? -1 : NEXT(name) arguments; }
CALL(rename, (const char* a, const char* b), (a, b))
CALL(renameat, (int x, const char* a, int y, const char* b), (x, a, y, b))
CALL(renameat2, (int x, const char* a, int y, const char* b, unsigned f), (x, a, y, b, f))
CALL(link, (const char* a, const char* b), (a, b))
CALL(linkat, (int x, const char* a, int y, const char* b, int f), (x, a, y, b, f))
CALL(symlink, (const char* a, const char* b), (a, b))
CALL(symlinkat, (const char* a, int x, const char* b), (a, x, b))
CALL(unlink, (const char* a), (a))
CALL(unlinkat, (int x, const char* a, int f), (x, a, f))
CALL(rmdir, (const char* a), (a))
CALL(mkdir, (const char* a, mode_t m), (a, m))
CALL(mkdirat, (int x, const char* a, mode_t m), (x, a, m))
CALL(chmod, (const char* a, mode_t m), (a, m))
CALL(fchmod, (int x, mode_t m), (x, m))
CALL(fchown, (int x, uid_t u, gid_t g), (x, u, g))
CALL(fchownat, (int x, const char* a, uid_t u, gid_t g, int f), (x, a, u, g, f))
CALL(lchown, (const char* a, uid_t u, gid_t g), (a, u, g))
CALL(ftruncate, (int x, off_t s), (x, s))
CALL(fsync, (int x), (x))
CALL(fdatasync, (int x), (x))
CALL(utimensat, (int x, const char* a, const struct timespec t[2], int f), (x, a, t, f))
