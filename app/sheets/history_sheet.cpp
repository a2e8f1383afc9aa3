#include "sheets/history_sheet.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QScrollBar>
#include <QVBoxLayout>
#include <algorithm>

#include "model/background.h"
#include "render/frames.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr QSize kPicture(80, 45);
constexpr int kRow = 53;

QImage pictureOf(const Scene& scene, int frame, QSize room) {
  QSize size(scene.width, scene.height);
  size.scale(room, Qt::KeepAspectRatio);
  const Frame8 made =
      oa::frame(scene, frame % scene.frames, std::max(1, size.width()), std::max(1, size.height()), Alpha::Premultiplied, 1);
  return QImage(made.rgba.data(), made.width, made.height, made.width * 4, QImage::Format_RGBA8888_Premultiplied).copy();
}

// In the middle of a box that all have, so that names stand in a column.
QIcon iconOf(const QImage& picture, double ratio) {
  QPixmap box(kPicture * ratio);
  box.setDevicePixelRatio(ratio);
  box.fill(Theme::now().surround);
  if (!picture.isNull()) {
    QPainter p(&box);
    QSizeF size = picture.size();
    size.scale(kPicture, Qt::KeepAspectRatio);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF({(kPicture.width() - size.width()) / 2, (kPicture.height() - size.height()) / 2}, size), picture);
  }
  // Of the one that is chosen as well, or it would be tinted.
  QIcon icon(box);
  icon.addPixmap(box, QIcon::Selected);
  return icon;
}

}  // namespace

HistorySheet::HistorySheet(Document& document, Player& player, Comparison& comparison, QWidget* parent)
    : Sheet(tr("History"), "history", parent, false), document_(document), player_(player), comparison_(comparison) {
  auto* note = new QLabel(tr("A click goes to a state. Tick one to see it beside what is there now."), this);
  addNote(note);
  looks_ = new QWidget(this);
  auto* row = new QHBoxLayout(looks_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  look_ = new QButtonGroup(this);
  const std::pair<QString, QString> looks[] = {{tr("Side by side"), tr("A on the left, B on the right of a line that is dragged")},
                                               {tr("A"), tr("What is there now, alone")},
                                               {tr("B"), tr("The other state, alone")}};
  for (int i = 0; i < 3; ++i) {
    auto* button = new QPushButton(looks[i].first, looks_);
    button->setObjectName(QStringLiteral("look-%1").arg(i));
    button->setCheckable(true);
    button->setToolTip(looks[i].second);
    look_->addButton(button, i);
    row->addWidget(button);
  }
  row->addStretch(1);
  auto* stop = new QPushButton(tr("Stop"), looks_);
  stop->setObjectName(QStringLiteral("compareStop"));
  stop->setToolTip(tr("No longer compare"));
  row->addWidget(stop);
  content()->addWidget(looks_);
  list_ = new QListWidget(this);
  list_->setObjectName(QStringLiteral("history"));
  list_->setAccessibleName(tr("States of the scene, the newest first"));
  list_->setIconSize(kPicture);
  list_->setUniformItemSizes(true);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  content()->addWidget(list_, 1);
  connect(look_, &QButtonGroup::idClicked, this, [this](int id) { comparison_.setLook(static_cast<Comparison::Look>(id)); });
  connect(stop, &QPushButton::clicked, &comparison_, &Comparison::end);
  connect(list_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
    if (filling_) return;
    const int state = stateOf(list_->row(item));
    item->checkState() == Qt::Checked ? comparison_.begin(states_[static_cast<std::size_t>(state)].scene, nameOf(state))
                                      : comparison_.end();
  });
  // The arrow keys go through the states as well.
  connect(list_, &QListWidget::currentRowChanged, this, [this](int at) {
    if (!filling_ && at >= 0) document_.goToState(stateOf(at));
  });
  connect(list_->verticalScrollBar(), &QScrollBar::valueChanged, this, &HistorySheet::makePictures);
  connect(&document_, &Document::changed, this, [this] {
    if (isVisible()) QMetaObject::invokeMethod(this, &HistorySheet::refresh, Qt::QueuedConnection);
  });
  connect(&comparison_, &Comparison::changed, this, &HistorySheet::refreshLook);
  refreshLook();
}

QString HistorySheet::nameOf(int state) const {
  const QString& done = states_[static_cast<std::size_t>(state)].name;
  return done.isEmpty() ? tr("As it was opened") : done;
}

void HistorySheet::showEvent(QShowEvent* event) {
  Sheet::showEvent(event);
  refresh();
}

void HistorySheet::resizeEvent(QResizeEvent* event) {
  Sheet::resizeEvent(event);
  makePictures();
}

// The pictures of states that are as they were stay.
void HistorySheet::refresh() {
  states_ = document_.states();
  known_.resize(states_.size());
  filling_ = true;
  const int count = static_cast<int>(states_.size());
  while (list_->count() > count) delete list_->takeItem(list_->count() - 1);
  while (list_->count() < count) {
    auto* item = new QListWidgetItem(list_);
    item->setSizeHint(QSize(0, kRow));
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
  }
  for (int state = 0; state < count; ++state) {
    Known& known = known_[static_cast<std::size_t>(state)];
    QListWidgetItem* item = list_->item(stateOf(state));
    if (!(known.scene == states_[static_cast<std::size_t>(state)].scene)) known = {states_[static_cast<std::size_t>(state)].scene, {}};
    item->setText(nameOf(state));
    item->setIcon(iconOf(known.picture, devicePixelRatioF()));
    item->setForeground(state > document_.stateNow() ? Theme::now().muted : Theme::now().ink);
  }
  list_->setCurrentRow(stateOf(document_.stateNow()));
  filling_ = false;
  refreshLook();
  makePictures();
}

void HistorySheet::refreshLook() {
  looks_->setVisible(comparison_.there());
  if (comparison_.there()) look_->button(static_cast<int>(comparison_.look()))->setChecked(true);
  filling_ = true;
  bool found = false;
  for (int at = 0; at < list_->count(); ++at) {
    // Of states that are the same one is ticked.
    const bool same = !found && comparison_.there() && states_[static_cast<std::size_t>(stateOf(at))].scene == *comparison_.other();
    list_->item(at)->setCheckState(same ? Qt::Checked : Qt::Unchecked);
    found = found || same;
  }
  filling_ = false;
}

std::vector<int> HistorySheet::inSight() const {
  std::vector<int> states;
  const QRect seen = list_->viewport()->rect();
  for (int at = 0; at < list_->count(); ++at)
    if (list_->visualItemRect(list_->item(at)).intersects(seen)) states.push_back(stateOf(at));
  return states;
}

bool HistorySheet::pictured() const {
  const auto seen = inSight();
  return std::none_of(seen.begin(), seen.end(), [&](int state) { return known_[static_cast<std::size_t>(state)].picture.isNull(); });
}

void HistorySheet::makePictures() {
  if (making_ || !isVisible()) return;
  for (const int state : inSight()) {
    const Known& known = known_[static_cast<std::size_t>(state)];
    if (!known.picture.isNull()) continue;
    making_ = true;
    inBackground(
        this,
        [scene = known.scene, frame = player_.frame(), room = kPicture * devicePixelRatioF()] {
          return std::pair(scene, pictureOf(scene.scene(), frame, room));
        },
        [this](const std::pair<edit::Snapshot, QImage>& made) {
          making_ = false;
          filling_ = true;
          for (std::size_t i = 0; i < known_.size(); ++i)
            if (known_[i].picture.isNull() && known_[i].scene == made.first) {
              known_[i].picture = made.second;
              if (QListWidgetItem* item = list_->item(stateOf(static_cast<int>(i))))
                item->setIcon(iconOf(made.second, devicePixelRatioF()));
            }
          filling_ = false;
          makePictures();
        });
    return;
  }
}

}  // namespace oa::app
