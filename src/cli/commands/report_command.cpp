#include <filesystem>

#include "cli/commands.h"
#include "cli/commands/with_session.h"
#include "session/pages/report_templates.h"
#include "session/pages/written_report.h"
#include "session/user/output_file.h"
#include "store/files/regular_file.h"

namespace cli {
namespace {

// The template, with what was said in place of it.
core::Result<report::PageOrder> orderOf(const ReportOptions& options) {
  constexpr std::uintmax_t kLargest = 1 << 20;
  const auto files = session::UserFiles::ofThisUser();
  if (!files) return files.error();
  session::ReportTemplates templates(files->templates);
  auto order = templates.find(options.made_by);
  if (!order) return order;
  if (!options.parts.empty()) {
    const auto parts = report::pagePartsFrom(options.parts);
    if (!parts) return parts.error();
    order->parts = *parts;
  }
  if (!options.own_words.empty()) {
    auto text = store::contentsOf(options.own_words, kLargest);
    if (!text) return text.error();
    order->text = *std::move(text);
    if (!order->has(report::PagePart::Text)) order->parts.insert(order->parts.begin(), report::PagePart::Text);
  }
  if (!options.kept_as.empty())
    if (auto kept = templates.keep(options.kept_as, *order); !kept) return kept.error();
  return order;
}

core::Result<session::ReportWish> wishOf(const ReportOptions& options) {
  using Form = session::ReportWish::Form;
  auto order = orderOf(options);
  if (!order) return order.error();
  return session::ReportWish{options.names_people, options.has_pictures, *std::move(order), options.is_night,
                             options.is_talk    ? Form::Talk
                             : options.is_phone ? Form::Phone
                                                : Form::Page};
}

}  // namespace

core::Status reportCommand(const std::string& study_path, const ReportOptions& options) {
  const std::string& out_path = options.out_path;
  return withSession(study_path, [&](session::Session& session) -> core::Status {
    if (auto free = session::checkOutput(out_path); !free) return free;  // first of all: no study is written over
    const auto files = session::reportFiles(out_path);
    if (!files) return files.error();
    for (const std::string& file : *files)
      if (auto free = session::checkOutput(file); !free) return free;
    const auto wish = wishOf(options);
    if (!wish) return wish.error();
    const core::Record record = store::recordOf(session.recorded());
    const core::Judgement judgement = core::judgementOf(session.study(), record);
    if (session::isDrawnByWindow(out_path)) {
      if (auto fine = report::checkReport(judgement); !fine) return fine;
      return session::drawByWindow(out_path, study_path, *wish);
    }
    const auto source = session::reportSource(session.open(), record, judgement, *wish);
    if (!source) return source.error();
    return session::writeReport(out_path, *source, std::filesystem::path(study_path).stem().string(), *wish);
  });
}

}  // namespace cli
