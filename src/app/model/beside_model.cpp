#include "app/model/beside_model.h"

#include <algorithm>

#include "app/model/qt_text.h"
#include "core/machine/fact_title.h"
#include "session/pages/written_beside.h"

namespace app {
namespace {

constexpr const char* kNames[] = {"/name", "/model", "/product", "board_name", "/driver"};

// What every study has, in the order of the first.
template <class NamesOf>
QStringList inAll(std::span<const core::StudyAside> studies, const NamesOf& names_of) {
  QStringList common;
  if (studies.empty()) return common;
  for (const std::string& name : names_of(studies.front())) {
    const bool is_everywhere = std::all_of(studies.begin(), studies.end(), [&](const core::StudyAside& one) {
      const std::vector<std::string> names = names_of(one);
      return std::find(names.begin(), names.end(), name) != names.end();
    });
    if (is_everywhere) common << QString::fromStdString(name);  // as it is: it is asked for by it
  }
  return common;
}

QString noticesOf(const core::Beside& beside, std::span<const core::StudyAside> studies) {
  QStringList lines;
  for (const std::string& sentence : core::noticesAside(beside, studies)) lines << toQt(sentence) + QLatin1Char('.');
  return lines.join(QLatin1Char('\n'));
}

}  // namespace

void BesideModel::lay(const core::BesideOrder& order, const std::filesystem::path& folder) {
  order_ = order;
  folder_ = folder;
  is_reading_ = true;
  beside_.reset();
  told_.clear();
  Q_EMIT changed();
  reading_.run<Read>(
      [order, folder] {
        return std::make_shared<const core::Result<session::StudiesRead>>(
            session::StudiesRead::read(order, folder, session::StudiesRead::Names::Short));
      },
      [this](const Read& read) {
        is_reading_ = false;
        read_ = read;
        ask(order_);
      });
}

void BesideModel::ask(const core::BesideOrder& order) {
  order_ = order;
  beside_.reset();
  told_.clear();
  if (read_ && !*read_) told_ = toQt(read_->error().sentence());
  if (read_ && *read_) {
    auto laid = core::layBeside(studies(), order_);
    if (laid) {
      beside_ = *std::move(laid);
      told_ = noticesOf(*beside_, studies());
    } else {
      told_ = toQt(laid.error().sentence());
    }
  }
  Q_EMIT changed();
}

std::span<const core::StudyAside> BesideModel::studies() const {
  return read_ && *read_ ? (*read_)->aside() : std::span<const core::StudyAside>();
}

QString BesideModel::firstPath() const {
  return order_.studies.empty() ? QString() : QString::fromStdString((folder_ / order_.studies.front()).string());
}

QStringList BesideModel::levels() const {
  return inAll(studies(), [](const core::StudyAside& one) {
    std::vector<std::string> names;
    for (const core::ConfigurationId at : core::configurationsOf(*one.study)) names.push_back(one.study->nameOf(at));
    return names;
  });
}

QStringList BesideModel::cases() const {
  return inAll(studies(), [](const core::StudyAside& one) {
    std::vector<std::string> titles;
    for (const core::Case& a_case : one.study->cases) titles.push_back(a_case.title());
    return titles;
  });
}

std::vector<std::pair<QString, QString>> BesideModel::axes() const {
  std::vector<std::pair<QString, QString>> axes{{QLatin1String(core::BesideOrder::kBench), tr("bench")}};
  const auto differing = core::differencesBetween(studies());
  // By its name a part is told from another; numbers beside it follow from that.
  const auto is_a_name = [](const core::FactAside& one) {
    return std::any_of(std::begin(kNames), std::end(kNames),
                       [&](const char* ending) { return one.fact.ends_with(ending); });
  };
  for (const bool of_names : {true, false})
    for (const core::FactAside& one : differing) {
      const bool is_read =
          std::none_of(one.values.begin(), one.values.end(), [](const std::string& value) { return value.empty(); });
      if (is_read && is_a_name(one) == of_names) axes.emplace_back(QString::fromStdString(one.fact), toQt(one.title));
    }
  return axes;
}

core::Status BesideModel::save(const QString& path) const {
  if (!beside_) return core::Error{core::ErrorKind::NotAllowed, "nothing is said yet", path.toStdString(), "Wait"};
  return session::writeBeside(path.toStdString(), *beside_, studies(), order_, folder_);
}

core::Status BesideModel::open(const QString& path) {
  auto order = session::readBesideOrder(path.toStdString());
  if (!order) return order.error();
  lay(*order, std::filesystem::path(path.toStdString()).parent_path());
  return core::Done{};
}

}  // namespace app
