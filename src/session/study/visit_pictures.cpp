#include "session/study/visit_pictures.h"

#include <QCryptographicHash>
#include <algorithm>
#include <filesystem>
#include <string_view>

#include <fmt/format.h>

#include "core/values/shown_text.h"
#include "store/files/regular_file.h"

namespace session {

using core::Error;
using core::ErrorKind;

std::string mediaTypeOf(const std::string& bytes) {
  using namespace std::string_view_literals;
  if (bytes.starts_with("\x89PNG\r\n\x1a\n"sv)) return "image/png";
  if (bytes.starts_with("\xff\xd8\xff"sv)) return "image/jpeg";
  return {};
}

core::Result<Picture> readPicture(const std::string& path) {
  constexpr std::uintmax_t kLargest = 16 * 1024 * 1024;
  auto bytes = store::contentsOf(path, kLargest);
  if (!bytes) return bytes.error();
  std::string type = mediaTypeOf(*bytes);
  if (type.empty())
    return Error{ErrorKind::Malformed, "this is no picture that a report can show", path, "Save it as PNG or JPEG"};
  return Picture{*std::move(bytes), std::move(type)};
}

core::Status keepVisitPicture(OpenStudy& open, int planned_visit, const std::string& path) {
  const auto& visits = open.recorded().visits;
  const auto visit = std::find_if(visits.rbegin(), visits.rend(),
                                  [&](const core::Visit& one) { return one.planned == planned_visit; });
  if (visit == visits.rend())
    return Error{ErrorKind::Missing, "this visit was not begun yet", open.path(),
                 "Take the picture, and keep it once the visit runs"};
  const auto picture = readPicture(path);
  if (!picture) return picture.error();
  const QByteArrayView bytes(picture->bytes.data(), static_cast<qsizetype>(picture->bytes.size()));
  const std::string digest =
      QCryptographicHash::hash(bytes.toByteArray(), QCryptographicHash::Sha256).toHex().toStdString();
  return open.file().addVisitPicture(
      {visit->id, digest, std::filesystem::path(path).filename().string(), open.now(), open.person()}, picture->bytes);
}

core::Result<std::vector<KeptPicture>> keptPictures(OpenStudy& open) {
  const auto kept = open.file().visitPictures();
  if (!kept) return kept.error();
  std::vector<KeptPicture> pictures;
  for (const store::StudyFile::VisitPicture& one : *kept) {
    const auto bytes = open.file().pictureBytes(one.digest);
    if (!bytes) return bytes.error();
    std::string caption = core::shownLine(one.name);
    for (const core::Visit& visit : open.recorded().visits)
      if (visit.id == one.visit_id)
        caption = fmt::format("Visit {}, at {}: {}", visit.planned, open.study().nameOf(visit.configuration), caption);
    const QByteArray raw(bytes->data(), static_cast<qsizetype>(bytes->size()));
    pictures.push_back({std::move(caption), mediaTypeOf(*bytes), raw.toBase64().toStdString()});
  }
  return pictures;
}

}  // namespace session
