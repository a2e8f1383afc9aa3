#include "sheets/recovery_dialog.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "render/frames.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kWidth = 208;
constexpr int kHeight = 117;

QPixmap pictureOf(const Scene& scene) {
  const Frame8 made = frame(scene, 0, kWidth, kHeight, Alpha::Premultiplied);
  const QImage wrapped(made.rgba.data(), made.width, made.height, made.width * 4, QImage::Format_RGBA8888_Premultiplied);
  return QPixmap::fromImage(wrapped.copy());
}

}  // namespace

RecoveryDialog::RecoveryDialog(std::vector<RescuedWork> work, QWidget* parent) : QDialog(parent), work_(std::move(work)) {
  setWindowTitle(tr("Unsaved work"));
  setObjectName(QStringLiteral("recovery"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(22, 18, 22, 16);
  column->setSpacing(12);
  auto* title = new QLabel(tr("This was not saved when the program ended"), this);
  title->setObjectName(QStringLiteral("title"));
  column->addWidget(title);
  auto* says = new QLabel(tr("It is as it was a few seconds before. Bringing it back overwrites no file."), this);
  says->setObjectName(QStringLiteral("muted"));
  column->addWidget(says);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* inside = new QWidget();
  auto* list = new QVBoxLayout(inside);
  list->setContentsMargins(0, 0, 0, 0);
  for (std::size_t i = 0; i < work_.size(); ++i) {
    const RescuedWork& one = work_[i];
    auto* line = new QWidget(inside);
    line->setObjectName(QStringLiteral("rescued-%1").arg(i));
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 4, 0, 4);
    row->setSpacing(16);
    auto* picture = new QLabel(line);
    picture->setFixedSize(kWidth, kHeight);
    picture->setPixmap(pictureOf(one.scene()));
    row->addWidget(picture);
    auto* words = new QVBoxLayout();
    words->setSpacing(3);
    const QString name = text(one.scene().name).isEmpty() ? tr("Untitled") : text(one.scene().name);
    auto* heading = new QLabel(name, line);
    heading->setObjectName(QStringLiteral("heading"));
    heading->setTextFormat(Qt::PlainText);
    words->addStretch(1);
    words->addWidget(heading);
    auto* details = new QLabel(tr("Kept %1\n%2")
                                   .arg(QLocale().toString(one.time(), QLocale::ShortFormat),
                                        one.path().isEmpty() ? tr("Never saved") : tr("Of %1").arg(QFileInfo(one.path()).fileName())),
                               line);
    details->setObjectName(QStringLiteral("muted"));
    details->setTextFormat(Qt::PlainText);
    words->addWidget(details);
    auto* buttons = new QHBoxLayout();
    auto* back = new QPushButton(tr("Bring it back"), line);
    back->setObjectName(QStringLiteral("primary"));
    back->setAccessibleName(tr("Bring back %1").arg(name));
    auto* away = new QPushButton(tr("Throw it away"), line);
    away->setObjectName(QStringLiteral("throwAway"));
    away->setAccessibleName(tr("Throw away %1").arg(name));
    buttons->addWidget(back);
    buttons->addWidget(away);
    buttons->addStretch(1);
    words->addSpacing(6);
    words->addLayout(buttons);
    words->addStretch(1);
    row->addLayout(words, 1);
    list->addWidget(line);
    connect(back, &QPushButton::clicked, this, [this, i] {
      Q_EMIT chosen(work_[i].scene(), work_[i].path());
      work_[i].forget();
      accept();
    });
    connect(away, &QPushButton::clicked, this, [this, i, line] {
      work_[i].forget();
      line->setEnabled(false);
      line->hide();
      for (const auto* other : findChildren<QPushButton*>(QStringLiteral("primary")))
        if (other->isVisibleTo(this)) return;
      reject();
    });
  }
  list->addStretch(1);
  scroll->setWidget(inside);
  column->addWidget(scroll, 1);
  auto* later = new QPushButton(tr("Later"), this);
  later->setToolTip(tr("It is offered again at the next start"));
  connect(later, &QPushButton::clicked, this, &QDialog::reject);
  auto* foot = new QHBoxLayout();
  foot->addStretch(1);
  foot->addWidget(later);
  column->addLayout(foot);
  resize(560, std::min(620, 190 + 130 * static_cast<int>(work_.size())));
}

}  // namespace oa::app
