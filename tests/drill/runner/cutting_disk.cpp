#include "drill/runner/cutting_disk.h"

#include <fcntl.h>
#include <sqlite3.h>
#include <unistd.h>

#include <cstring>
#include <map>
#include <memory>
#include <random>
#include <string>
#include <vector>

namespace drill {
namespace {

/// One write that no sync has made lasting yet.
struct Write {
  std::int64_t offset = 0;
  std::string before;  ///< what stood there
  std::string after;
};

/// A file on the disk, by its path, with what is not lasting yet.
struct Fragile {
  bool is_new = false;  ///< made since the last sync
  std::int64_t lasting_size = 0;
  std::vector<Write> writes;
};

struct Disk {
  std::int64_t acts = 0;
  std::int64_t cut_at = 0;
  std::mt19937_64 random;
  std::map<std::string, Fragile> files;
};

Disk& disk() {
  static Disk one;
  return one;
}

/// What SQLite sees as an open file: our methods in front of the real ones.
struct OpenFile {
  sqlite3_file base;
  sqlite3_file* real = nullptr;
  std::string* path = nullptr;
};

sqlite3_vfs* realVfs = nullptr;

OpenFile& ours(sqlite3_file* file) { return *reinterpret_cast<OpenFile*>(file); }

std::int64_t sizeOf(sqlite3_file* file) {
  sqlite3_int64 size = 0;
  (void)file->pMethods->xFileSize(file, &size);
  return size;
}

bool isLost() { return disk().random() % 2 == 0; }

// Back to what was lasting, then those of the later writes that made it.
void loseParts(const std::string& path, const Fragile& file) {
  if (file.is_new && isLost()) {
    ::unlink(path.c_str());
    return;
  }
  const int out = ::open(path.c_str(), O_WRONLY | O_CLOEXEC);
  if (out < 0) return;
  const auto put = [&](const Write& write, const std::string& bytes) {
    (void)!::pwrite(out, bytes.data(), bytes.size(), write.offset);
  };
  for (auto write = file.writes.rbegin(); write != file.writes.rend(); ++write) put(*write, write->before);
  (void)!::ftruncate(out, file.lasting_size);
  for (const Write& write : file.writes)
    if (!isLost()) put(write, write.after);
  ::fsync(out);
  ::close(out);
}

// Counts an act; at the chosen one the power goes.
void act() {
  Disk& one = disk();
  if (++one.acts != one.cut_at) return;
  for (const auto& [path, file] : one.files) loseParts(path, file);
  ::_exit(77);
}

int closeFile(sqlite3_file* file) {
  OpenFile& open = ours(file);
  const int code = open.real->pMethods ? open.real->pMethods->xClose(open.real) : SQLITE_OK;
  sqlite3_free(open.real);
  delete open.path;
  return code;
}
int readFile(sqlite3_file* file, void* to, int count, sqlite3_int64 offset) {
  return ours(file).real->pMethods->xRead(ours(file).real, to, count, offset);
}
int writeFile(sqlite3_file* file, const void* from, int count, sqlite3_int64 offset) {
  OpenFile& open = ours(file);
  act();
  Write write{offset, std::string(static_cast<std::size_t>(count), '\0'),
              std::string(static_cast<const char*>(from), static_cast<std::size_t>(count))};
  (void)open.real->pMethods->xRead(open.real, write.before.data(), count, offset);  // zeros past the end
  if (open.path) disk().files[*open.path].writes.push_back(std::move(write));
  return open.real->pMethods->xWrite(open.real, from, count, offset);
}
int truncateFile(sqlite3_file* file, sqlite3_int64 size) {
  act();
  return ours(file).real->pMethods->xTruncate(ours(file).real, size);
}
int syncFile(sqlite3_file* file, int flags) {
  OpenFile& open = ours(file);
  act();
  const int code = open.real->pMethods->xSync(open.real, flags);
  if (!open.path) return code;
  Fragile& state = disk().files[*open.path];
  state.is_new = false;
  state.writes.clear();
  state.lasting_size = sizeOf(open.real);
  return code;
}
int fileSize(sqlite3_file* file, sqlite3_int64* size) {
  return ours(file).real->pMethods->xFileSize(ours(file).real, size);
}
int lockFile(sqlite3_file* file, int level) { return ours(file).real->pMethods->xLock(ours(file).real, level); }
int unlockFile(sqlite3_file* file, int level) { return ours(file).real->pMethods->xUnlock(ours(file).real, level); }
int checkLock(sqlite3_file* file, int* is_reserved) {
  return ours(file).real->pMethods->xCheckReservedLock(ours(file).real, is_reserved);
}
int control(sqlite3_file* file, int what, void* argument) {
  return ours(file).real->pMethods->xFileControl(ours(file).real, what, argument);
}
int sectorSize(sqlite3_file* file) { return ours(file).real->pMethods->xSectorSize(ours(file).real); }
int characteristics(sqlite3_file* file) { return ours(file).real->pMethods->xDeviceCharacteristics(ours(file).real); }

// Version 1: no shared memory and no mapping, which would go past us.
constexpr sqlite3_io_methods kMethods{
    1,       closeFile,  readFile,        writeFile, truncateFile, syncFile, fileSize, lockFile, unlockFile, checkLock,
    control, sectorSize, characteristics, nullptr,   nullptr,      nullptr,  nullptr,  nullptr,  nullptr};

// A copy that is being made counts for nothing before it is synced and has its name, which goes past us.
bool isCopy(const char* name) { return std::strstr(name, "copy.ironlever") != nullptr; }

int openFile(sqlite3_vfs*, const char* name, sqlite3_file* file, int flags, int* out_flags) {
  OpenFile& open = ours(file);
  std::memset(static_cast<void*>(&open), 0, sizeof open);
  open.real = static_cast<sqlite3_file*>(sqlite3_malloc(realVfs->szOsFile));
  std::memset(open.real, 0, static_cast<std::size_t>(realVfs->szOsFile));
  const bool is_kept = name && !isCopy(name) && (flags & (SQLITE_OPEN_MAIN_DB | SQLITE_OPEN_MAIN_JOURNAL)) != 0;
  const bool was_there = name && ::access(name, F_OK) == 0;
  if (is_kept && !was_there) act();
  const int code = realVfs->xOpen(realVfs, name, open.real, flags, out_flags);
  if (code != SQLITE_OK) {
    sqlite3_free(open.real);
    return code;
  }
  open.base.pMethods = &kMethods;
  if (!is_kept) return code;
  open.path = new std::string(name);
  if (!disk().files.contains(*open.path)) {
    Fragile& state = disk().files[*open.path];
    state.is_new = !was_there;
    state.lasting_size = sizeOf(open.real);
  }
  return code;
}

// With its folder synced a deletion lasts; without, the file may come back, as far as it was lasting.
int deleteFile(sqlite3_vfs*, const char* name, int syncs_folder) {
  act();
  if (syncs_folder == 0 && !isCopy(name)) return SQLITE_IOERR_DELETE;  // nobody else deletes without it
  disk().files.erase(name);
  return realVfs->xDelete(realVfs, name, syncs_folder);
}

}  // namespace

void installCuttingDisk(std::int64_t cut_at, std::uint64_t seed) {
  realVfs = sqlite3_vfs_find(nullptr);
  disk().cut_at = cut_at;
  disk().random.seed(seed);
  static sqlite3_vfs vfs = *realVfs;
  vfs.zName = "cutting";
  vfs.szOsFile = sizeof(OpenFile);
  vfs.pNext = nullptr;
  vfs.xOpen = openFile;
  vfs.xDelete = deleteFile;
  sqlite3_vfs_register(&vfs, 1);
}

std::int64_t actsOnDisk() { return disk().acts; }

}  // namespace drill
