#include "session/bundle/sealed_zip.h"

#include <sys/stat.h>
#include <zip.h>

#include <QCryptographicHash>
#include <QFile>
#include <algorithm>
#include <array>

#include <fmt/format.h>

#include "session/user/file_sum.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

constexpr std::size_t kDigits = 64;

Error notWritten(const std::string& path, const std::string& why) {
  return {ErrorKind::Io, "the bundle could not be written: " + why, path, "Check the folder and its free space"};
}

struct Discard {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};

core::Status addTo(zip_t* archive, const std::string& path, const std::string& name, const std::string& from) {
  zip_source_t* source = zip_source_file(archive, from.c_str(), 0, -1);
  const zip_int64_t at = source ? zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
  if (at < 0) {
    zip_source_free(source);
    return notWritten(path, zip_strerror(archive));
  }
  // Of the same study the same bytes: no time of day, and nothing that another version would pack otherwise.
  const auto index = static_cast<zip_uint64_t>(at);
  constexpr zip_uint16_t kMidnight = 0;
  constexpr zip_uint16_t kFirstDay = (1 << 5) | 1;  // of 1980, where a zip's calendar begins
  if (zip_set_file_compression(archive, index, ZIP_CM_STORE, 0) != 0 ||
      zip_file_set_dostime(archive, index, kMidnight, kFirstDay, 0) != 0)
    return notWritten(path, zip_strerror(archive));
  return core::Done{};
}

bool isPlain(zip_t* archive, zip_uint64_t index) {
  zip_uint8_t system = 0;
  zip_uint32_t attributes = 0;
  if (zip_file_get_external_attributes(archive, index, 0, &system, &attributes) != 0) return false;
  const mode_t mode = attributes >> 16;
  return system != ZIP_OPSYS_UNIX || (mode & S_IFMT) == 0 || S_ISREG(mode);
}

std::string refusalOf(zip_t* archive, zip_uint64_t index, const zip_stat_t& status) {
  constexpr zip_uint64_t kNeeded = ZIP_STAT_NAME | ZIP_STAT_SIZE | ZIP_STAT_COMP_SIZE | ZIP_STAT_COMP_METHOD;
  if ((status.valid & kNeeded) != kNeeded) return "the zip does not say what it is";
  if (status.comp_method != ZIP_CM_STORE || status.comp_size != status.size) return "it is packed: ours never are";
  if ((status.valid & ZIP_STAT_ENCRYPTION_METHOD) != 0 && status.encryption_method != ZIP_EM_NONE)
    return "it is encrypted";
  if (!isPlain(archive, index)) return "it is a link or no plain file";
  return {};
}

}  // namespace

core::Result<std::string> writeSealedZip(const std::string& path,
                                         const std::vector<std::pair<std::string, std::string>>& files) {
  int failed = 0;
  std::unique_ptr<zip_t, Discard> archive(zip_open(path.c_str(), ZIP_CREATE | ZIP_EXCL, &failed));
  if (!archive) return notWritten(path, "its place cannot be written to");
  for (const auto& [name, from] : files)
    if (auto added = addTo(archive.get(), path, name, from); !added) return added.error();
  const std::string comment = std::string(kSealWords) + std::string(kDigits, '0');
  if (zip_set_archive_comment(archive.get(), comment.data(), static_cast<zip_uint16_t>(comment.size())) != 0 ||
      zip_close(archive.get()) != 0)
    return notWritten(path, zip_strerror(archive.get()));
  (void)archive.release();  // closing has freed it
  auto seal = sha256Of(path, kDigits);
  if (!seal) return seal;
  QFile file(QString::fromStdString(path));
  if (!file.open(QIODevice::ReadWrite) || !file.seek(file.size() - static_cast<qint64>(kDigits)) ||
      file.write(seal->data(), kDigits) != kDigits || !file.flush())
    return notWritten(path, file.errorString().toStdString());
  return seal;
}

void SealedZip::Close::operator()(struct zip* archive) const { zip_discard(archive); }

core::Result<SealedZip> SealedZip::open(const std::string& path) {
  SealedZip bundle;
  bundle.path_ = path;
  QFile file(QString::fromStdString(path));
  struct stat status {};
  if (::stat(path.c_str(), &status) == 0 && !S_ISREG(status.st_mode))
    return Error{ErrorKind::Missing, "this is not a regular file", path, "Name a bundle"};
  if (!file.open(QIODevice::ReadOnly))
    return Error{file.exists() ? ErrorKind::Io : ErrorKind::Missing, "the bundle cannot be read", path,
                 "Check its name and that you may read it"};
  const qint64 tail = static_cast<qint64>(kSealWords.size() + kDigits);
  if (!file.seek(std::max<qint64>(0, file.size() - tail))) return notWritten(path, "it cannot be read");
  const std::string end = file.read(tail).toStdString();
  const bool is_sealed =
      end.starts_with(kSealWords) && end.find_first_not_of("0123456789abcdef", kSealWords.size()) == std::string::npos;
  if (!is_sealed || end.size() != static_cast<std::size_t>(tail))
    return Error{ErrorKind::ForeignFile, "this is not a sealed bundle, or its end was cut off or changed", path,
                 "Ask for it anew from whoever sealed it"};
  bundle.seal_ = end.substr(kSealWords.size());
  int failed = 0;
  bundle.archive_.reset(zip_open(path.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &failed));
  if (!bundle.archive_)
    return Error{ErrorKind::DamagedFile, "the zip does not hold together", path,
                 "Ask for it anew from whoever sealed it"};
  if (auto listed = bundle.list(); !listed) return listed.error();
  return bundle;
}

core::Status SealedZip::list() {
  constexpr zip_int64_t kMost = 200'000;
  const zip_int64_t count = zip_get_num_entries(archive_.get(), 0);
  if (count > kMost)
    return Error{ErrorKind::OutOfRange, fmt::format("the bundle lists {} files", count), path_,
                 fmt::format("No bundle of ours has more than {}", kMost)};
  for (zip_int64_t i = 0; i < count; ++i) {
    zip_stat_t status;
    zip_stat_init(&status);
    const auto index = static_cast<zip_uint64_t>(i);
    if (zip_stat_index(archive_.get(), index, ZIP_FL_ENC_STRICT, &status) != 0)
      return Error{ErrorKind::DamagedFile, "an entry of the zip cannot be read", path_,
                   "Ask for it anew from whoever sealed it"};
    const bool is_named = (status.valid & ZIP_STAT_NAME) != 0 && status.name;
    entries_.push_back({is_named ? status.name : "", status.size, refusalOf(archive_.get(), index, status)});
  }
  return core::Done{};
}

core::Result<std::string> SealedZip::sum() const { return sha256Of(path_, kDigits); }

core::Status SealedZip::read(std::size_t entry, const std::function<core::Status(std::string_view)>& take) const {
  const Error damaged{ErrorKind::DamagedFile, "its bytes are not what the zip says of them", entries_[entry].name,
                      "Ask for the bundle anew from whoever sealed it"};
  if (!entries_[entry].refused.empty()) return damaged;
  const std::unique_ptr<zip_file_t, int (*)(zip_file_t*)> file(zip_fopen_index(archive_.get(), entry, 0), zip_fclose);
  if (!file) return damaged;
  std::array<char, 1 << 16> piece{};
  std::uint64_t left = entries_[entry].size;
  while (true) {
    const zip_int64_t got = zip_fread(file.get(), piece.data(), piece.size());
    if (got < 0 || static_cast<std::uint64_t>(got) > left) return damaged;
    if (got == 0) return left == 0 ? core::Status(core::Done{}) : damaged;
    left -= static_cast<std::uint64_t>(got);
    if (auto taken = take({piece.data(), static_cast<std::size_t>(got)}); !taken) return taken;
  }
}

}  // namespace session
