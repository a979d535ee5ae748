#include "app/model/person_acts.h"

#include <algorithm>

namespace app {

void stateFacts(StudyModel& model, const std::map<QString, QString>& facts) {
  if (!model.hasStudy()) return;
  const std::vector<core::Fact> known = store::statedFactsOf(model.session().recorded());
  for (const auto& [asked, value] : facts) {
    const std::string id = asked.toStdString();
    const std::string name = "stated/" + id;
    const auto same = std::find_if(known.begin(), known.end(), [&](const core::Fact& one) { return one.name == name; });
    const std::string before = same == known.end() ? "" : same->value;
    const std::string now = value.trimmed().toStdString();
    if (now != before) model.act([&](session::Session& s) { return s.decisions().state(id, now); });
  }
}

void pressPlayersKey(StudyModel& model) {
  using Phase = session::PlayedStretch::Phase;
  const session::PlayedStretch* stretch = model.hasStudy() ? model.session().pass().stretch() : nullptr;
  if (!stretch) return;
  const Phase phase = stretch->phase(model.session().pass().secondsInPass());
  if (phase == Phase::Waiting) model.act([](session::Session& s) { return s.pass().beginStretch(0); });
  if (phase == Phase::Counting) model.act([](session::Session& s) { return s.pass().endStretch(); });
}

void sayHowItFelt(StudyModel& model, const QString& word) {
  if (!model.hasStudy()) return;
  if (const auto pass = model.session().pass().passToFeel())
    model.act([&](session::Session& s) { return s.decisions().feel(*pass, word.toStdString()); });
}

}  // namespace app
