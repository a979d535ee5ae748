#include "store/files/side_files.h"

#include <sys/stat.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <string_view>

#include "store/files/regular_file.h"

namespace store {
namespace {

constexpr std::string_view kJournalMagic("\xd9\xd5\x05\xf9\x20\xa1\x63\xd7", 8);

core::Error foreign(const std::string& path, const char* what) {
  return {core::ErrorKind::ForeignFile, what, path,
          "Iron Lever did not leave it: move it away, then open the study again; nothing was touched"};
}

bool isThere(const std::string& path, struct stat& status) { return ::lstat(path.c_str(), &status) == 0; }

// A journal begins with its magic, or with zeros as long as it does not count, and ends with the name of a file that
// ties several databases together: ours never are.
core::Status checkJournal(const std::string& path) {
  struct stat status {};
  if (!isThere(path, status)) return core::Done{};
  if (!S_ISREG(status.st_mode) || status.st_nlink != 1)
    return foreign(path, "a link, or something that is not a regular file, lies beside the study as its journal");
  const auto file = RegularFile::open(path);
  if (!file && file.error().kind == core::ErrorKind::Missing) return core::Done{};  // its transaction ended meanwhile
  if (!file) return file.error();
  if (file->size() == 0) return core::Done{};
  std::array<char, kJournalMagic.size()> bytes{};
  bool is_whole = file->size() >= bytes.size();
  const auto at = [&](std::uintmax_t from) {
    bytes.fill(1);
    const auto read = file->read(bytes.data(), bytes.size(), static_cast<std::size_t>(from));
    is_whole = is_whole && read == static_cast<std::ptrdiff_t>(bytes.size());
    return std::string_view(bytes.data(), bytes.size());
  };
  const std::string_view begin = at(0);
  // One that has become shorter while it is looked at is that of a transaction that has just ended.
  if (file->size() >= bytes.size() && !is_whole) return core::Done{};
  const bool is_zero = std::all_of(begin.begin(), begin.end(), [](char byte) { return byte == 0; });
  if (begin != kJournalMagic && !is_zero) return foreign(path, "what lies beside the study as its journal is none");
  if (file->size() > bytes.size() && at(file->size() - bytes.size()) == kJournalMagic)
    return foreign(path, "the journal beside the study names another file");
  return core::Done{};
}

}  // namespace

core::Status checkSideFiles(const std::string& database_path) {
  std::error_code code;  // SQLite looks beside the file itself, not beside a link to it
  const std::string whole = std::filesystem::weakly_canonical(std::filesystem::absolute(database_path), code).string();
  const std::string path = code ? database_path : whole;
  for (const char* end : {"-wal", "-shm"}) {
    struct stat status {};
    if (isThere(path + end, status))
      return foreign(path + end, "another program's write-ahead log lies beside the study");
  }
  return checkJournal(path + "-journal");
}

}  // namespace store
