#include "session/bundle/bundle.h"

#include <QDate>
#include <QFile>
#include <filesystem>

#include "session/bundle/bundle_files.h"
#include "session/bundle/bundle_manifest.h"
#include "session/bundle/sealed_zip.h"
#include "session/user/output_file.h"
#include "session/user/person.h"
#include "session/user/scratch.h"

namespace session {
namespace {

using core::Error;
using core::ErrorKind;

/// What goes into a bundle as it lies in a folder of its own, with its manifest growing.
class Staging {
 public:
  explicit Staging(std::string folder) : folder_(std::move(folder)) {}

  [[nodiscard]] std::string pathOf(const std::string& name) const { return folder_ + '/' + name; }
  core::Status put(const std::string& name, const std::string& content) {
    std::error_code code;
    std::filesystem::create_directories(std::filesystem::path(pathOf(name)).parent_path(), code);
    if (auto written = writeOutput(pathOf(name), content); !written) return written;
    return list(name);
  }
  /// One that lies there already.
  core::Status list(const std::string& name) {
    const auto digest = digestOf(pathOf(name));
    if (!digest) return digest.error();
    files_.push_back({name, *digest, std::filesystem::file_size(pathOf(name))});
    return core::Done{};
  }
  [[nodiscard]] const std::vector<ListedFile>& files() const { return files_; }

 private:
  std::string folder_;
  std::vector<ListedFile> files_;
};

core::Status copyInto(const std::string& from, const std::string& path) {
  QFile file(QString::fromStdString(from));
  return writeOutput(path, [&](QIODevice& out) {
    if (!file.open(QIODevice::ReadOnly)) return false;
    while (!file.atEnd()) {
      const QByteArray piece = file.read(1 << 20);
      if (piece.isEmpty() || out.write(piece) != piece.size()) return false;
    }
    return true;
  });
}

}  // namespace

core::Result<SealedBundle> sealBundle(OpenStudy& open, const std::string& path, const KeptPersonal& kept) {
  if (auto fine = checkOutput(path); !fine) return fine.error();
  const auto scratch = makeScratch();
  if (!scratch)
    return Error{ErrorKind::Io, "there is no folder to put the bundle together in", path, "Free disk space"};
  Staging staging(scratch->filePath(QStringLiteral("files")).toStdString());
  std::error_code code;
  std::filesystem::create_directories(staging.pathOf(""), code);
  SealedBundle sealed;
  const auto left_out = copyNameless(open, staging.pathOf(kBundledStudy), kept);
  if (!left_out) return left_out.error();
  sealed.left_out = *left_out;
  const BundleMaking making{IRON_LEVER_VERSION, QDate::currentDate().toString(Qt::ISODate).toStdString(), kept};
  {
    auto copy = store::StudyFile::open(staging.pathOf(kBundledStudy));
    if (!copy) return copy.error();
    OpenStudy nameless(*std::move(copy), personAtThisMachine());
    if (auto read = nameless.read(); !read) return read.error();
    const auto taken = forEachBundleFile(nameless, making, [&](const std::string& name, const std::string& content) {
      return staging.put(name, content);
    });
    if (!taken) return taken.error();
  }
  if (auto listed = staging.list(kBundledStudy); !listed) return listed.error();
  if (auto put = staging.put(kReadMe, readMeText(sealed.left_out)); !put) return put.error();
  const std::string manifest = manifestText({making, staging.files(), sealed.left_out});
  if (auto put = staging.put(kManifest, manifest); !put) return put.error();
  std::vector<std::pair<std::string, std::string>> files;
  for (const ListedFile& one : staging.files()) files.emplace_back(one.name, staging.pathOf(one.name));
  const std::string zip = scratch->filePath(QStringLiteral("bundle")).toStdString();
  auto seal = writeSealedZip(zip, files);
  if (!seal) return seal.error();
  if (auto copied = copyInto(zip, path); !copied) return copied.error();
  sealed.seal = *std::move(seal);
  sealed.files = files.size();
  return sealed;
}

}  // namespace session
