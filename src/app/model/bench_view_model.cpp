#include "app/model/bench_view_model.h"

#include <map>

#include "app/model/bench_history.h"
#include "core/machine/device_path.h"
#include "core/machine/difference_sentences.h"
#include "core/machine/fact_title.h"
#include "core/machine/links.h"
#include "core/machine/memory_layout.h"
#include "core/machine/stated_fact.h"
#include "core/study/expected_reading.h"

namespace app {
namespace {

QStringList linesOf(const std::vector<std::string>& texts) {
  QStringList list;
  for (const std::string& text : texts) list << QString::fromStdString(text);
  return list;
}

QString rateText(double GBps) { return QObject::tr("%1 GB/s").arg(GBps, 0, 'f', 1); }

// Almost every machine has one PCI domain: its number says nothing there.
QString shortAddress(const std::string& address) {
  const QString text = QString::fromStdString(address);
  return text.startsWith(QLatin1String("0000:")) ? text.mid(5) : text;
}

// Facts that could not be read for one reason are one line.
QStringList unreadTexts(const std::vector<core::Unverified>& unread) {
  constexpr int kMostNames = 6;
  std::map<std::string, QStringList> by_reason;
  for (const core::Unverified& one : unread) {
    // Which file it was follows from the fact's name; the reason behind it is what a person can do something about.
    const auto colon = one.why.starts_with('/') ? one.why.find(": ") : std::string::npos;
    by_reason[colon == std::string::npos ? one.why : one.why.substr(colon + 2)] << QString::fromStdString(one.field);
  }
  QStringList texts;
  for (const auto& [why, fields] : by_reason) {
    QString names = fields.mid(0, kMostNames).join(QStringLiteral(", "));
    if (fields.size() > kMostNames) names += QObject::tr(" and %1 more").arg(fields.size() - kMostNames);
    texts << QStringLiteral("%1 — %2").arg(names, QString::fromStdString(why));
  }
  return texts;
}

QString modulesText(const core::MemoryLayout& memory) {
  QStringList texts;
  for (const core::MemoryLayout::Module& module : memory.modules)
    texts << QStringLiteral("%1 %2").arg(QString::fromStdString(module.locator),
                                         toQt(core::sizeText(module.size_bytes)));
  return texts.join(QStringLiteral(" + "));
}

}  // namespace

BenchViewModel::BenchViewModel(const StudyModel& study, QObject* parent) : QObject(parent), study_(study) {
  connect(&study, &StudyModel::studyOpened, this, [this] {
    is_chosen_ = false;
    records_seen_ = 0;
    left_ = right_ = 0;
    refresh();
  });
  connect(&study, &StudyModel::changed, this, &BenchViewModel::refresh);
}

const core::Visit* BenchViewModel::visit(std::int64_t id) const {
  for (const core::Visit& one : study_.session().recorded().visits)
    if (one.id == id) return &one;
  return nullptr;
}

const core::Capture* BenchViewModel::capture(std::int64_t visit_id) const {
  return study_.hasStudy() ? core::bestCaptureOf(visit_id, study_.session().recorded().captures) : nullptr;
}

std::string BenchViewModel::device() const {
  for (const core::Variable& one : study_.study().variables)
    if (!one.device.empty()) return one.device;
  const core::Capture* any = capture(left_);
  return any ? core::likelyGraphicsDevice(*any) : std::string();
}

void BenchViewModel::refresh() {
  if (!study_.hasStudy()) return;
  const store::Recorded& recorded = study_.session().recorded();
  const std::size_t records = recorded.captures.size() + recorded.measurements.size();
  if (records == records_seen_ && capture(left_)) return;
  records_seen_ = records;
  lookBack();
  if (!is_chosen_ || !capture(left_) || !capture(right_)) takeReferences();
  compare();
}

// The visits that stand for their levels; before there are two, whatever was captured.
void BenchViewModel::takeReferences() {
  const core::BenchProof& proof = referenceProof();
  left_ = proof.baseline_visit;
  right_ = proof.changed_visit;
  if (left_ == 0 && !proof.visits.empty()) left_ = proof.visits.front().visit_id;
  if (right_ == 0) right_ = left_;
}

// Of the two configurations that the study is about; where several variables move between those, as in a chain, of its
// first step that was captured.
const core::BenchProof& BenchViewModel::referenceProof() const {
  const core::Judgement& judged = study_.judgement();
  if (!judged.proof.visits.empty()) return judged.proof;
  for (const core::StepProof& step : judged.steps)
    if (step.proof.is_captured) return step.proof;
  for (const core::StepProof& step : judged.steps)
    if (!step.proof.visits.empty()) return step.proof;
  return judged.proof;
}

void BenchViewModel::lookBack() {
  since_last_time_.clear();
  const store::Recorded& recorded = study_.session().recorded();
  if (recorded.captures.empty()) return;
  since_last_time_ = app::sinceLastTime(study_.benches(), study_.session().machine().registeredName(),
                                        recorded.visits.front().started_ms, recorded.captures.front().capture);
}

bool BenchViewModel::showsReferences() const {
  return left_ == referenceProof().baseline_visit && right_ == referenceProof().changed_visit;
}

void BenchViewModel::compare() {
  comparison_.reset();
  const core::Capture* a = capture(left_);
  const core::Capture* b = capture(right_);
  if (a && b && left_ != right_) {
    const bool is_one_level = visit(left_)->configuration == visit(right_)->configuration;
    const std::string left = visitText(left_).toStdString();
    const std::string right = visitText(right_).toStdString();
    const core::ComparisonOrder order =
        is_one_level ? core::ComparisonOrder{core::findVariableKind("other"), device(), {}, left, right}
                     : core::comparisonOrderOf(shownPair(), device(), left, right);
    comparison_ = core::compareCaptures(*a, *b, order);
  }
  Q_EMIT changed();
}

void BenchViewModel::choose(std::int64_t left_visit, std::int64_t right_visit) {
  if (!capture(left_visit) || !capture(right_visit)) return;
  left_ = left_visit;
  right_ = right_visit;
  is_chosen_ = true;
  compare();
}

void BenchViewModel::showVisitOfDoubt(const QString& doubt_id) {
  const auto named = core::visitsNamedIn(doubt_id.toStdString(), core::kUnlikeItsLevelId);
  if (named.empty()) return;
  for (const core::StepProof& step : study_.judgement().steps)
    for (const core::VisitProof& one : step.proof.visits)
      if (one.visit_id == named.front())
        return choose(
            one.configuration == core::ConfigurationId::Baseline ? step.proof.baseline_visit : step.proof.changed_visit,
            one.visit_id);
}

QString BenchViewModel::visitText(std::int64_t id) const {
  const core::Visit* one = visit(id);
  return one ? tr("visit %1 · %2").arg(one->planned).arg(app::toQt(study_.study().nameOf(one->configuration)))
             : QString();
}

std::vector<BenchViewModel::Choice> BenchViewModel::choices() const {
  std::vector<Choice> all;
  if (!study_.hasStudy()) return all;
  for (const core::Visit& one : study_.session().recorded().visits)
    if (capture(one.id)) all.push_back({one.id, visitText(one.id)});
  return all;
}

QString BenchViewModel::summary() const {
  if (!comparison_) return hasCaptures() ? tr("Only one level is captured so far.") : QString();
  const bool is_one_level = visit(left_)->configuration == visit(right_)->configuration;
  const bool is_clean = comparison_->must_not.empty() && comparison_->held.empty();
  const QString else_text = comparison_->only_variable_changed ? tr("nothing else changed")
                            : is_clean ? tr("what came along is listed below, nothing else changed")
                                       : tr("something else changed");
  if (is_one_level)
    return comparison_->must_not.empty() ? tr("Two visits at the same level; nothing differs.")
                                         : tr("Two visits at the same level, and they differ.");
  const bool is_open = showsReferences() ? referenceProof().verdict == core::ProofVerdict::CannotTell
                                         : comparison_->moved == core::Moved::Undetermined;
  const QString variable = app::toQt(shownPair().variable().name);
  if (is_open) return tr("Whether the %1 moved cannot be told; %2.").arg(variable, else_text);
  const char* moved =
      showsReferences() ? core::proofVerdictName(referenceProof().verdict) : core::movedName(comparison_->moved);
  return tr("The %1 %2; %3.").arg(variable, QString::fromUtf8(moved), else_text);
}

void BenchViewModel::addMemoryPath(std::vector<PathRow>& rows, std::int64_t visit_id) const {
  const core::MemoryLayout memory = core::memoryLayout(*capture(visit_id));
  if (memory.modules.empty()) return;
  PathRow row{visitText(visit_id), visit(visit_id)->configuration, {tr("processor"), modulesText(memory)}, {}};
  row.hops.push_back({memory.mts ? tr("%1 MT/s, %2 bit").arg(*memory.mts).arg(memory.bus_bits) : tr("modules differ"),
                      memory.mts ? rateText(*memory.peakGBps()) : QString(), tr("memory"), false, false});
  rows.push_back(row);
}

void BenchViewModel::addDevicePath(std::vector<PathRow>& rows, std::int64_t visit_id) const {
  const core::Capture& read = *capture(visit_id);
  const core::DevicePath path = core::devicePath(read, device());
  if (path.hops.empty()) return;
  PathRow row{visitText(visit_id), visit(visit_id)->configuration, {tr("processor")}, {}};
  for (std::size_t i = 0; i < path.hops.size(); ++i) {
    const core::Hop& hop = path.hops[i];
    const QString name = app::toQt(read.text("pci/" + hop.up + "/product_name"));
    const bool is_card_next = i + 1 < path.hops.size() && path.hops[i + 1].where == "inside the card";
    if (!name.isEmpty())
      row.stations << name;
    else if (is_card_next)
      row.stations << tr("card's switch");
    else
      row.stations << (hop.isVirtual() ? tr("the box") : shortAddress(hop.up));
    const auto generation = core::pcieGeneration(hop.now.gts);
    const QString grade = hop.isVirtual()      ? tr("cable")
                          : hop.now.lanes == 0 ? tr("not read")
                          : generation         ? tr("Gen %1 x%2").arg(*generation).arg(hop.now.lanes)
                                               : tr("%1 GT/s x%2").arg(hop.now.gts).arg(hop.now.lanes);
    const bool is_narrowest = path.hasNeck() && path.narrowest == i;
    const QString where = hop.isVirtual() ? QString() : app::toQt(hop.where);
    row.hops.push_back({grade,
                        hop.rateGBps()    ? rateText(*hop.rateGBps())
                        : hop.isVirtual() ? tr("rate unknown")
                                          : QString(),
                        is_narrowest ? (where.isEmpty() ? tr("narrowest") : where + tr(", narrowest")) : where,
                        is_narrowest, hop.isVirtual()});
  }
  rows.push_back(row);
}

std::vector<PathRow> BenchViewModel::paths() const {
  std::vector<PathRow> rows;
  std::vector<std::int64_t> visits{left_};
  if (right_ != left_) visits.push_back(right_);
  const core::VariableKind* kind = study_.hasStudy() ? core::findVariableKind(shownPair().variable().kind) : nullptr;
  const bool is_about_memory = kind && kind->measures == "read_GBps";
  for (const std::int64_t id : visits)
    if (is_about_memory && capture(id)) addMemoryPath(rows, id);
  for (const std::int64_t id : visits)
    if (capture(id)) addDevicePath(rows, id);
  return rows;
}

std::vector<DifferenceGroup> BenchViewModel::groups() const {
  if (!comparison_) return {};
  QStringList accidents = linesOf(core::differenceSentences(comparison_->held));
  accidents += linesOf(core::differenceSentences(comparison_->must_not));
  return {{tr("Must not change"), accidents,
           tr("nothing: %1 settings are equal").arg(static_cast<int>(comparison_->unchanged.size())), true},
          {tr("Meant to change"), linesOf(core::differenceSentences(comparison_->meant)), tr("nothing moved"), false},
          {tr("Comes along"), linesOf(core::differenceSentences(comparison_->comes_along)), tr("nothing"), false},
          {tr("Could not be read"), unreadTexts(comparison_->unread), tr("nothing: every fact was read on both sides"),
           false}};
}

// The configurations of the two visits that are shown, as a study of two levels; beside a visit at the same one stands
// any other.
core::Study BenchViewModel::shownPair() const {
  const core::Study& study = study_.study();
  if (study.shape == core::Shape::Pair || !visit(left_)) return study_.judgement().pair_study;
  const core::ConfigurationId left = visit(left_)->configuration;
  const core::ConfigurationId right = visit(right_) ? visit(right_)->configuration : left;
  const core::ConfigurationId other = core::configurationAt(core::placeOf(left) == 0 ? 1 : 0);
  return core::pairStudyOf(study, {left, right == left ? other : right});
}

// At which of that study's two levels a visit is.
std::size_t BenchViewModel::placeInPair(std::int64_t visit_id) const {
  const core::ConfigurationId own = visit(visit_id)->configuration;
  if (study_.study().shape == core::Shape::Pair) return core::placeOf(own);
  return own == visit(left_)->configuration ? 0 : 1;
}

// What the level is called, as a capture must read it; empty where nothing of the kind is expected.
QString BenchViewModel::expectedReadingText(std::int64_t visit_id) const {
  const auto expected = core::expectedReadings(shownPair())[placeInPair(visit_id)];
  if (!expected) return {};
  const core::ReadAtLevel read = core::readAtLevel(*expected, *capture(visit_id), device());
  switch (read.answer) {
    case core::ReadAtLevel::Answer::Agrees: return tr("%1, as read").arg(app::toQt(expected->value));
    case core::ReadAtLevel::Answer::Disagrees:
      return tr("%1, but %2 was read").arg(app::toQt(expected->value), app::toQt(read.shown));
    case core::ReadAtLevel::Answer::NotRead: return tr("%1, not read").arg(app::toQt(expected->value));
  }
  return {};
}

// What is read and what a measurement may be expected to yield: in GB/s where rates are due, and only there.
ProofRow BenchViewModel::proofRow(std::int64_t id) const {
  const core::Capture& read = *capture(id);
  ProofRow row{visitText(id), expectedReadingText(id), {}, {}, measuredTexts(id)};
  const core::VariableKind* kind = core::findVariableKind(shownPair().variable().kind);
  const auto band = [&](const core::RateBand& rates) {
    return tr("%1 to %2").arg(rates.lo_GBps, 0, 'f', 1).arg(rateText(rates.hi_GBps));
  };
  if (kind && kind->measures == "read_GBps") {
    const core::MemoryLayout memory = core::memoryLayout(read);
    row.read = memory.mts ? tr("%1 MT/s, %2 bit").arg(*memory.mts).arg(memory.bus_bits) : tr("not read");
    if (memory.mts) row.expected = band(core::plausibleMemoryRead(*memory.peakGBps()));
  } else if (kind && kind->measures == "to_device_GBps") {
    const core::DevicePath path = core::devicePath(read, device());
    const core::Hop* hop = path.narrowestHop();
    row.read = hop ? app::toQt(hop->text()) : tr("not read");
    if (const auto rates = hop ? hop->plausibleCopy() : std::nullopt) row.expected = band(*rates);
  }
  return row;
}

std::vector<ProofRow> BenchViewModel::proof() const {
  std::vector<ProofRow> rows;
  if (capture(left_)) rows.push_back(proofRow(left_));
  if (right_ != left_ && capture(right_)) rows.push_back(proofRow(right_));
  return rows;
}

// Every reading of the measuring command, whatever the kind.
QStringList BenchViewModel::measuredTexts(std::int64_t visit_id) const {
  const core::VisitMeasurement* one =
      core::measurementOf(visit_id, core::CaptureMoment::Start, study_.session().recorded().measurements);
  if (!one)
    return {study_.study().measure_command.empty() ? tr("not measured: the question names no measuring command")
                                                   : tr("not measured")};
  if (!one->failure.empty()) return {tr("not measured: %1").arg(app::toQt(one->failure))};
  const core::VariableKind* declared = core::findVariableKind(shownPair().variable().kind);
  const core::VariableKind& kind = declared ? *declared : *core::findVariableKind("other");
  QStringList texts;
  for (const core::Reading& reading : one->readings) {
    QString text = tr("measured %1: %2")
                       .arg(app::toQt(core::readingTitle(reading.name)),
                            app::toQt(core::readingText(reading.name, reading.measured)));
    if (const auto usable = core::usableRate(reading.name, kind, device(), *capture(visit_id)))
      text += tr(", %1 % of the usable %2, %3")
                  .arg(100 * reading.measured.median() / usable->GBps, 0, 'f', 0)
                  .arg(rateText(usable->GBps), app::toQt(usable->of)) +
              (reading.measured.median() > usable->GBps ? tr("; more than is possible: a measuring error") : QString());
    texts << text;
  }
  return texts;
}

QStringList BenchViewModel::measuredSteps() const {
  QStringList sentences;
  if (!showsReferences()) return sentences;
  for (const core::MeasuredStep& step : study_.judgement().proof.measured) {
    const QString sentence = app::toQt(step.sentence());
    switch (step.agreement) {
      case core::Agreement::Agrees: sentences << tr("%1: agrees with what was read.").arg(sentence); break;
      case core::Agreement::Disagrees: sentences << tr("%1: does not agree with what was read.").arg(sentence); break;
      case core::Agreement::TooNoisy: sentences << tr("%1: too noisy to show the step.").arg(sentence); break;
      case core::Agreement::NoStep: sentences << sentence + QLatin1Char('.'); break;
    }
  }
  return sentences;
}

QStringList BenchViewModel::stated() const {
  QStringList lines;
  const core::Capture* shown = capture(left_);
  if (!shown) return lines;
  for (const core::StatedKind& kind : core::statedKinds()) {
    const core::Fact* fact = shown->find("stated/" + std::string(kind.id));
    if (fact) lines << tr("%1: %2").arg(app::toQt(std::string(kind.title)), app::toQt(fact->shown()));
  }
  return lines;
}

QStringList BenchViewModel::cautions() const {
  QStringList texts;
  const core::VariableKind* kind =
      study_.hasStudy() ? core::findVariableKind(study_.judgement().pair_study.variable().kind) : nullptr;
  if (kind)
    for (const std::string_view caution : kind->cautions)
      texts << QString::fromUtf8(caution.data(), static_cast<qsizetype>(caution.size()));
  return texts;
}

QString BenchViewModel::emptyText() const {
  return tr(
      "Nothing is captured yet.\n\nAt the start and the end of each visit, and while its first passes run, the program "
      "reads what the machine says about itself: "
      "links, memory, processor, firmware, drivers. Here you see whether the variable moved, and what moved with it.");
}

}  // namespace app
