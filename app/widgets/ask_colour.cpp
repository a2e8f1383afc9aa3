#include "widgets/ask_colour.h"

#include <QColorDialog>
#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLabel>
#include <QVBoxLayout>

#include "widgets/swatch.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr int kInARow = 12;
constexpr int kMostShown = 48;

QColor toQt(const Colour& c) { return QColor::fromRgbF(c.r, c.g, c.b, c.a); }

}  // namespace

ColourDialog::ColourDialog(const QString& title, const Colour& start, const std::vector<Colour>& palette, QWidget* parent)
    : QDialog(parent) {
  setWindowTitle(title);
  auto* column = new QVBoxLayout(this);
  picker_ = new QColorDialog(toQt(start), this);
  picker_->setWindowFlags(Qt::Widget);
  picker_->setOptions(QColorDialog::ShowAlphaChannel | QColorDialog::DontUseNativeDialog | QColorDialog::NoButtons);
  if (!palette.empty()) {
    auto* heading = new QLabel(tr("Palette of the scene"), this);
    heading->setObjectName(QStringLiteral("muted"));
    column->addWidget(heading);
    auto* grid = new QGridLayout();
    grid->setSpacing(4);
    for (int i = 0; i < std::min(kMostShown, static_cast<int>(palette.size())); ++i) {
      const Colour& colour = palette[static_cast<std::size_t>(i)];
      auto* swatch = new Swatch(this);
      swatch->setObjectName(QStringLiteral("palette-%1").arg(i));
      swatch->setMinimumSize(34, 26);
      swatch->setColour(colour);
      swatch->setToolTip(oa::app::text(colourText(colour)));
      swatch->setAccessibleName(tr("Palette colour %1").arg(oa::app::text(colourText(colour))));
      connect(swatch, &QAbstractButton::clicked, this, [this, colour] {
        // The palette gives the hue; how transparent it is stays.
        QColor chosen = toQt(colour);
        chosen.setAlphaF(static_cast<float>(picker_->currentColor().alphaF()));
        picker_->setCurrentColor(chosen);
      });
      grid->addWidget(swatch, i / kInARow, i % kInARow);
    }
    column->addLayout(grid);
  }
  column->addWidget(picker_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  connect(picker_, &QColorDialog::currentColorChanged, this, [this] { Q_EMIT changed(colour()); });
}

Colour ColourDialog::colour() const {
  const QColor c = picker_->currentColor();
  return {static_cast<float>(c.redF()), static_cast<float>(c.greenF()), static_cast<float>(c.blueF()), static_cast<float>(c.alphaF())};
}

bool askColour(QWidget* parent, const QString& title, Colour start, const std::vector<Colour>& palette,
               const std::function<void(const Colour&)>& changed) {
  ColourDialog dialog(title, start, palette, parent);
  bool touched = false;
  QObject::connect(&dialog, &ColourDialog::changed, &dialog, [&](const Colour& colour) {
    touched = true;
    changed(colour);
  });
  if (dialog.exec() == QDialog::Accepted) return true;
  if (touched) changed(start);
  return false;
}

}  // namespace oa::app
