#include "sheets/palette_sheet.h"

#include <QCheckBox>
#include <QDir>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QListWidget>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "media/palette_file.h"
#include "media/picture_file.h"
#include "scene/recolour.h"
#include "widgets/file_chooser.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kColoursOfAPicture = 7;
constexpr int kRowHeight = 44;

bool endsWithOne(const QString& path, const QStringList& endings) {
  return std::any_of(endings.begin(), endings.end(), [&](const QString& e) { return path.endsWith(e, Qt::CaseInsensitive); });
}

}  // namespace

bool isPaletteFile(const QString& path) {
  return endsWithOne(path, {QStringLiteral(".gpl"), QStringLiteral(".pal"), QStringLiteral(".css"), QStringLiteral(".hex")});
}

std::vector<Palette> ownPalettes() {
  std::vector<Palette> list;
  const QDir folder(QStringLiteral(":/oa/palettes"));
  for (const QString& name : folder.entryList({QStringLiteral("*.gpl")}, QDir::Files, QDir::Name)) {
    QFile file(folder.filePath(name));
    if (!file.open(QIODevice::ReadOnly)) continue;
    if (auto palette = paletteFromText(file.readAll().toStdString())) list.push_back(std::move(*palette));
  }
  return list;
}

class PaletteDelegate : public QStyledItemDelegate {
 public:
  explicit PaletteDelegate(PaletteSheet& sheet) : QStyledItemDelegate(&sheet), sheet_(sheet) {}
  QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {200, kRowHeight}; }
  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const auto row = static_cast<std::size_t>(index.row());
    if (row >= sheet_.palettes_.size()) return;
    const Palette& palette = sheet_.palettes_[row];
    const Theme& t = Theme::now();
    const bool chosen = option.state & QStyle::State_Selected;
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRectF card = QRectF(option.rect).adjusted(1, 2, -1, -2);
    p->setPen(QPen(chosen ? t.persimmon : t.line, chosen ? 1.6 : 1));
    p->setBrush(chosen || (option.state & QStyle::State_MouseOver) ? t.card : t.paper);
    p->drawRoundedRect(card, 6, 6);
    drawItemFocus(*p, option, card, 6);
    p->setPen(t.ink);
    p->setFont(uiFont(12, chosen ? 600 : 500));
    const QRectF words(card.left() + 10, card.top(), 112, card.height());
    p->drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, static_cast<int>(words.width())));
    const QRectF strip(words.right() + 6, card.top() + 7, card.right() - words.right() - 16, card.height() - 14);
    QPainterPath clip;
    clip.addRoundedRect(strip, 4, 4);
    p->setClipPath(clip);
    const std::size_t n = palette.colours.size();
    for (std::size_t i = 0; i < n; ++i) {
      const Colour& c = palette.colours[i];
      const double width = strip.width() / static_cast<double>(n);
      p->fillRect(QRectF(strip.left() + static_cast<double>(i) * width, strip.top(), width + 1, strip.height()),
                  QColor::fromRgbF(c.r, c.g, c.b));
    }
    p->restore();
  }

 private:
  PaletteSheet& sheet_;
};

PaletteSheet::PaletteSheet(Document& document, QWidget* parent) : Sheet(tr("Palette"), "palette", parent, false), document_(document) {
  auto* says = new QLabel(tr("Choose one to see the whole scene in its colours: the dark ones stay dark and the light ones light."), this);
  says->setObjectName(QStringLiteral("muted"));
  addNote(says);
  recolour_ = new QCheckBox(tr("Recolour the scene"), this);
  recolour_->setObjectName(QStringLiteral("recolour"));
  recolour_->setChecked(true);
  recolour_->setToolTip(tr("Without it the palette is only offered wherever a colour is chosen"));
  content()->addWidget(recolour_);
  list_ = new QListWidget(this);
  list_->setObjectName(QStringLiteral("palettes"));
  list_->setAccessibleName(tr("Palettes"));
  list_->setItemDelegate(new PaletteDelegate(*this));
  list_->setMouseTracking(true);
  list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  content()->addWidget(list_, 1);
  note_ = new QLabel(this);
  addNote(note_);
  note_->hide();
  auto* files = new QHBoxLayout();
  const auto button = [&](const QString& words, const QString& help, QBoxLayout* row) {
    auto* made = new QPushButton(words, this);
    made->setToolTip(help);
    row->addWidget(made);
    return made;
  };
  auto* open = button(tr("Open…"), tr("GIMP and JASC palettes, hex lists, CSS"), files);
  auto* picture = button(tr("From a picture…"), tr("The main colours of a picture"), files);
  auto* save = button(tr("Save…"), tr("Writes the scene's palette as .gpl, .pal, .css or a list of hex colours"), files);
  content()->addLayout(files);
  auto* ends = new QHBoxLayout();
  back_ = button(tr("As it was"), tr("The scene as it was when this sheet opened"), ends);
  back_->setObjectName(QStringLiteral("putBack"));
  auto* keep = button(tr("Keep"), tr("Back to the recipe"), ends);
  keep->setObjectName(QStringLiteral("keep"));
  content()->addLayout(ends);
  for (const Palette& palette : ownPalettes()) addPalette(palette, false);
  connect(list_, &QListWidget::currentRowChanged, this, &PaletteSheet::tryOut);
  connect(recolour_, &QCheckBox::toggled, this, [this] { tryOut(list_->currentRow()); });
  connect(open, &QPushButton::clicked, this,
          [this] { askForFile(tr("Open a palette"), tr("Palettes (*.gpl *.pal *.css *.hex *.txt);;All files (*)")); });
  connect(picture, &QPushButton::clicked, this,
          [this] { askForFile(tr("Take colours from a picture"), tr("Pictures (*.png *.jpg *.jpeg *.webp *.gif *.tif *.tiff *.bmp)")); });
  connect(save, &QPushButton::clicked, this, &PaletteSheet::saveAs);
  connect(back_, &QPushButton::clicked, this, &PaletteSheet::putBack);
  connect(keep, &QPushButton::clicked, this, &Sheet::closed);
  // Changed elsewhere (undo, another control): from there palettes are tried from now on.
  connect(&document, &Document::changed, this, [this] {
    if (!trying_ && isVisible()) begin();
  });
}

void PaletteSheet::showEvent(QShowEvent*) { begin(); }

void PaletteSheet::begin() {
  before_ = document_.scene();
  document_.endGesture();
  const QSignalBlocker quiet(list_);
  list_->setCurrentRow(rowOf(text(before_.palette.name)));
  back_->setEnabled(false);
}

int PaletteSheet::rowOf(const QString& name) const {
  for (std::size_t i = 0; i < palettes_.size(); ++i)
    if (text(palettes_[i].name) == name) return static_cast<int>(i);
  return -1;
}

void PaletteSheet::addPalette(const Palette& palette, bool choose) {
  const QSignalBlocker quiet(list_);
  const int there = rowOf(text(palette.name));
  int row = there;
  if (there >= 0) {
    palettes_[static_cast<std::size_t>(there)] = palette;
  } else {
    palettes_.push_back(palette);
    auto* item = new QListWidgetItem(text(palette.name), list_);
    item->setToolTip(tr("%1, %2 colours").arg(text(palette.name)).arg(palette.colours.size()));
    row = list_->count() - 1;
  }
  if (!choose) return;
  list_->setCurrentRow(row);
  list_->scrollToItem(list_->item(row));
  tryOut(row);
}

void PaletteSheet::tryOut(int row) {
  if (row < 0 || row >= static_cast<int>(palettes_.size())) return;
  const Palette& palette = palettes_[static_cast<std::size_t>(row)];
  note_->hide();
  trying_ = true;
  // One palette after the other is one step of the history.
  document_.edit(tr("palette %1").arg(text(palette.name)), QStringLiteral("palette"), [&](Scene& scene) {
    if (recolour_->isChecked()) {
      scene = recoloured(before_, palette);
    } else {
      scene = before_;
      scene.palette = palette;
    }
  });
  trying_ = false;
  back_->setEnabled(true);
}

void PaletteSheet::putBack() {
  trying_ = true;
  document_.edit(tr("palette as it was"), QStringLiteral("palette"), [&](Scene& scene) { scene = before_; });
  trying_ = false;
  begin();
}

bool PaletteSheet::openFile(const QString& path) {
  const auto palette =
      isPicture(path.toStdString()) ? paletteFromPicture(path.toStdString(), kColoursOfAPicture) : readPalette(path.toStdString());
  if (!palette) {
    say(text(palette.error().sentence()), true);
    return false;
  }
  addPalette(*palette, true);
  return true;
}

void PaletteSheet::askForFile(const QString& title, const QString& filter) {
  const QString path = chooseFile(this, title, QFileInfo(document_.path()).path(), filter);
  if (!path.isEmpty()) openFile(path);
}

void PaletteSheet::saveAs() {
  Palette palette = document_.scene().palette;
  if (palette.colours.empty()) palette = {document_.scene().name, document_.colours()};
  const QString path = QFileDialog::getSaveFileName(this, tr("Save the palette"), text(palette.name) + QStringLiteral(".gpl"),
                                                    tr("GIMP palette (*.gpl);;JASC palette (*.pal);;CSS (*.css);;Hex colours (*.hex)"));
  if (path.isEmpty()) return;
  const auto saved = writePalette(path.toStdString(), palette);
  say(saved ? tr("Saved as %1").arg(QFileInfo(path).fileName()) : text(saved.error().sentence()), !saved);
}

void PaletteSheet::say(const QString& message, bool bad) {
  const Theme& t = Theme::now();
  note_->setStyleSheet(QStringLiteral("color: %1;").arg((bad ? t.persimmon : t.moss).name()));
  note_->setText(message);
  note_->show();
}

}  // namespace oa::app
