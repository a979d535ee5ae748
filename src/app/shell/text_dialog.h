#pragma once

#include <QDialog>
#include <vector>

#include "app/shell/prompts.h"

namespace app {

/// Texts of any length, to be read and copied; none of them can be changed. `accept`: what a person agrees to, who has
/// read them; empty where nothing is asked.
class TextDialog final : public QDialog {
  Q_OBJECT
 public:
  TextDialog(const QString& title, const std::vector<Prompts::Chapter>& chapters, QWidget* parent = nullptr,
             const QString& accept = {});
};

}  // namespace app
