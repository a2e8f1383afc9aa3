#include "widgets/fades_dialog.h"

#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QRadioButton>
#include <algorithm>
#include <cmath>

#include "edit/items.h"
#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

ParamSpec lengthSpec(std::string_view id, std::string_view label, std::string_view help, double base) {
  return {
      .id = id, .label = label, .help = help, .base = base, .min = 0, .max = 3600, .sliderMin = 0, .sliderMax = 10, .unit = Unit::Seconds};
}
const ParamSpec kHold = lengthSpec("hold", "Stands", "How long each colour stands; 0: it is gone through.", 2);
const ParamSpec kFade = lengthSpec("fade", "Fades", "How long it takes to become the next; 0: it jumps.", 1);

// One round as a strip: each colour as long as it stands, and its way to the next.
class FadesStrip : public QWidget {
 public:
  explicit FadesStrip(const edit::Fades& fades, QWidget* parent) : QWidget(parent), fades_(fades) {
    setFixedHeight(26);
    setMinimumWidth(300);
    setAccessibleName(FadesDialog::tr("One round of the colours"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const std::size_t n = std::min(fades_.colours.size(), edit::kMostFades);
    const double each = fades_.hold + fades_.fade;
    if (n == 0 || each <= 0) return;
    QLinearGradient ramp(0, 0, width(), 0);
    const auto shade = [&](std::size_t i) {
      const Colour& c = fades_.colours[i % n];
      return QColor::fromRgbF(std::clamp(c.r, 0.0f, 1.0f), std::clamp(c.g, 0.0f, 1.0f), std::clamp(c.b, 0.0f, 1.0f));
    };
    for (std::size_t i = 0; i < n; ++i) {
      const double begins = static_cast<double>(i) / static_cast<double>(n);
      const double ends = (static_cast<double>(i) + fades_.hold / each) / static_cast<double>(n);
      ramp.setColorAt(begins, shade(i));
      ramp.setColorAt(std::min(1.0, ends), shade(i));
      // A jump lies between two places that are as near as nothing.
      if (fades_.fade <= 0 && i + 1 < n)
        ramp.setColorAt(std::max(0.0, (static_cast<double>(i) + 1) / static_cast<double>(n) - 1e-6), shade(i));
    }
    ramp.setColorAt(1, fades_.fade <= 0 ? shade(n - 1) : shade(0));
    p.setPen(QPen(Theme::now().line, 1));
    p.setBrush(ramp);
    p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 5, 5);
  }

 private:
  const edit::Fades& fades_;
};

QString seconds(double v) { return QString::number(v, 'f', v < 10 ? 2 : 1); }

}  // namespace

FadesDialog::FadesDialog(const std::vector<Colour>& colours, double loopSeconds, double longest, QWidget* parent)
    : QDialog(parent), loop_(loopSeconds), longest_(longest) {
  setObjectName(QStringLiteral("fadesDialog"));
  setWindowTitle(tr("Fade through the palette"));
  fades_.colours = colours;
  if (fades_.colours.size() > edit::kMostFades) fades_.colours.resize(edit::kMostFades);
  // To begin with, one round fills the loop.
  const double each = std::round(loopSeconds / static_cast<double>(std::max<std::size_t>(1, fades_.colours.size())) * 100) / 100;
  fades_.fade = std::round(each / 3 * 100) / 100;
  fades_.hold = each - fades_.fade;
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(18, 16, 18, 14);
  grid->setVerticalSpacing(10);
  grid->setHorizontalSpacing(12);
  auto* says = new QLabel(tr("%1 colours, one after the other").arg(fades_.colours.size()), this);
  says->setObjectName(QStringLiteral("muted"));
  grid->addWidget(says, 0, 0, 1, 4);
  auto* strip = new FadesStrip(fades_, this);
  grid->addWidget(strip, 1, 0, 1, 4);
  const auto field = [&](const ParamSpec& spec, double& value, const char* name, int column) {
    auto* label = new QLabel(text(spec.label), this);
    auto* made = new NumberField(spec, this);
    made->setObjectName(QLatin1String(name));
    made->setAccessibleName(text(spec.label));
    made->setToolTip(text(spec.help));
    made->setValue(value);
    connect(made, &NumberField::moved, this, [this, made, strip, &value](double v) {
      value = v;
      made->setValue(v);
      strip->update();
      tell();
    });
    grid->addWidget(label, 2, column);
    grid->addWidget(made, 2, column + 1);
    return made;
  };
  hold_ = field(kHold, fades_.hold, "fadesHold", 0);
  fade_ = field(kFade, fades_.fade, "fadesFade", 2);
  fit_ = new QRadioButton(this);
  fit_->setObjectName(QStringLiteral("fadesFit"));
  fit_->setChecked(true);
  set_ = new QRadioButton(this);
  set_->setObjectName(QStringLiteral("fadesSetLoop"));
  grid->addWidget(fit_, 3, 0, 1, 4);
  grid->addWidget(set_, 4, 0, 1, 4);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
  auto* ok = new QPushButton(tr("Fade"), this);
  ok->setObjectName(QStringLiteral("primary"));
  buttons->addButton(ok, QDialogButtonBox::AcceptRole);
  ok->setDefault(true);
  connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  grid->addWidget(buttons, 5, 0, 1, 4);
  tell();
}

bool FadesDialog::setsLoop() const { return set_->isChecked() && set_->isEnabled(); }

void FadesDialog::tell() {
  const double round = edit::roundSeconds(fades_);
  const auto fits = edit::roundsIn(fades_, loop_);
  fit_->setText(fits.rounds == 1
                    ? tr("Keep the loop of %1 s: they stand %2 s and fade %3 s").arg(seconds(loop_), seconds(fits.hold), seconds(fits.fade))
                    : tr("Keep the loop of %1 s, %4 rounds: they stand %2 s and fade %3 s")
                          .arg(seconds(loop_), seconds(fits.hold), seconds(fits.fade))
                          .arg(fits.rounds));
  set_->setText(tr("Make the loop one round long: %1 s").arg(seconds(round)));
  set_->setEnabled(round > 0 && round <= longest_);
  for (QPushButton* button : findChildren<QPushButton*>(QStringLiteral("primary"))) button->setEnabled(round > 0);
}

void fadeThroughPalette(QWidget* parent, Document& document, const ParamAddress& at) {
  const std::vector<Colour> colours = document.colours();
  const double rate = document.scene().rate.value();
  if (colours.size() < 2) {
    Q_EMIT document.refused(QObject::tr("the palette has to have two colours at least"));
    return;
  }
  FadesDialog dialog(colours, document.scene().frames / rate, kMaxFrames / rate, parent->window());
  if (dialog.exec() != QDialog::Accepted) return;
  const edit::Fades fades = dialog.fades();
  document.edit(QObject::tr("fade through the palette"), {}, [&](Scene& scene) {
    if (dialog.setsLoop()) scene.frames = std::clamp(static_cast<int>(std::lround(edit::roundSeconds(fades) * rate)), 1, kMaxFrames);
    const int rounds = edit::roundsIn(fades, scene.frames / rate).rounds;
    RecipeStep* step = Document::step(scene, at.layer, at.step);
    if (step && at.item == ParamAddress::kAllItems)
      edit::fadeItemsThrough(*step, static_cast<std::size_t>(at.param), fades, rounds);
    else
      edit::fadeThrough(Document::param(scene, at), fades, rounds,
                        step && at.item > 0 ? static_cast<std::size_t>(std::max(0, edit::itemIndex(*step, at.item))) : 0);
  });
  document.showMotion(at);
}

}  // namespace oa::app
