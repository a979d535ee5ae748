#include "session/bundle/bundle.h"

#include <QDate>
#include <QFile>
#include <filesystem>

#include "session/bundle/bundle_files.h"
#include "session/bundle/bundle_manifest.h"
#include "session/bundle/sealed_zip.h"
#include "session/user/file_sum.h"
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
    const auto digest = sha256Of(pathOf(name));
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

// All that follows from the copied study, put beside it.
core::Status deriveInto(Staging& staging, const BundleMaking& making) {
  auto copy = store::StudyFile::open(staging.pathOf(kBundledStudy));
  if (!copy) return copy.error();
  OpenStudy nameless(*std::move(copy), personAtThisMachine());
  if (auto read = nameless.read(); !read) return read;
  return forEachBundleFile(nameless, making, [&](const std::string& name, const std::string& content) {
    return staging.put(name, content);
  });
}

// What a bundle is put together in, and where it is to lie.
struct Draft {
  std::shared_ptr<QTemporaryDir> scratch;
  std::string path;
  BundleMaking making;
  std::map<std::string, int> left_out;

  [[nodiscard]] std::string staged() const { return scratch->filePath(QStringLiteral("files")).toStdString(); }
};

core::Result<SealedBundle> sealed(const Draft& draft) {
  Staging staging(draft.staged());
  if (auto derived = deriveInto(staging, draft.making); !derived) return derived.error();
  if (auto listed = staging.list(kBundledStudy); !listed) return listed.error();
  if (auto put = staging.put(kReadMe, readMeText(draft.left_out)); !put) return put.error();
  const std::string manifest = manifestText({draft.making, staging.files(), draft.left_out});
  if (auto put = staging.put(kManifest, manifest); !put) return put.error();
  std::vector<std::pair<std::string, std::string>> files;
  for (const ListedFile& one : staging.files()) files.emplace_back(one.name, staging.pathOf(one.name));
  const std::string zip = draft.scratch->filePath(QStringLiteral("bundle")).toStdString();
  auto seal = writeSealedZip(zip, files);
  if (!seal) return seal.error();
  if (auto copied = copyInto(zip, draft.path); !copied) return copied.error();
  return SealedBundle{*std::move(seal), files.size(), draft.left_out};
}

}  // namespace

core::Result<Sealing> beginSealing(OpenStudy& open, const std::string& path, const KeptPersonal& kept) {
  if (auto fine = checkOutput(path); !fine) return fine.error();
  Draft draft{makeScratch(),
              path,
              BundleMaking{IRON_LEVER_VERSION, QDate::currentDate().toString(Qt::ISODate).toStdString(), kept},
              {}};
  if (!draft.scratch)
    return Error{ErrorKind::Io, "there is no folder to put the bundle together in", path, "Free disk space"};
  std::error_code code;
  std::filesystem::create_directories(draft.staged(), code);
  auto left_out = copyNameless(open, draft.staged() + '/' + kBundledStudy, kept);
  if (!left_out) return left_out.error();
  draft.left_out = *std::move(left_out);
  return Sealing([draft = std::move(draft)] { return sealed(draft); });
}

core::Result<SealedBundle> sealBundle(OpenStudy& open, const std::string& path, const KeptPersonal& kept) {
  const auto sealing = beginSealing(open, path, kept);
  return sealing ? (*sealing)() : sealing.error();
}

}  // namespace session
