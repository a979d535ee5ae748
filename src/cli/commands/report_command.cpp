#include <QDate>
#include <filesystem>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "report/report.h"
#include "session/study/visit_pictures.h"
#include "session/user/output_file.h"

namespace cli {

// The name says what people, and programs, take it for.
static bool isPageName(const std::string& path) {
  const std::string ending = std::filesystem::path(path).extension().string();
  return ending.empty() || ending == ".html" || ending == ".htm";
}

core::Status reportCommand(const std::string& study_path, const std::string& out_path, bool names_people,
                           bool has_pictures) {
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (auto free = session::checkOutput(out_path); !free) return free;
    if (!isPageName(out_path))
      return core::Error{core::ErrorKind::OutOfRange, "the report is written as a page, not as this",
                         "--out " + out_path, "Name it .html; the window saves a PDF of it"};
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    report::Source source{session.study(),
                          record,
                          judgement,
                          IRON_LEVER_VERSION,
                          QDate::currentDate().toString(Qt::ISODate).toStdString(),
                          names_people};
    if (has_pictures) {
      auto pictures = session::keptPictures(session.open());
      if (!pictures) return pictures.error();
      for (session::KeptPicture& one : *pictures)
        source.pictures.push_back({std::move(one.caption), std::move(one.media_type), std::move(one.base64)});
    }
    const auto page = report::htmlPage(source);
    if (!page) return page.error();
    return session::writeOutput(out_path, *page);
  });
}

}  // namespace cli
