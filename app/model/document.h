// The scene being worked on: one place for its undo history, file name, dirty state and selection.
#pragma once

#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <memory>
#include <optional>
#include <span>

#include "edit/layers.h"
#include "edit/snapshot.h"
#include "scene/plan.h"

namespace oa::app {

using edit::Ids;

/// Which parameter: a layer by its id, a step of its recipe or one of the layer's own tables, the parameter's index in it or, of
/// one of its items, in theirs; and which of its motions is spoken of.
struct ParamAddress {
  static constexpr int kOpacity = -1;
  static constexpr int kPlace = -2;
  static constexpr int kMask = -3;        ///< how the mask is read
  static constexpr int kMaskSource = -4;  ///< the source that it shows
  static constexpr Id kAllItems = -1;     ///< what is set goes to every item; the first one is shown
  static constexpr int kArrive = -5;      ///< how the layer arrives
  static constexpr int kLeave = -6;       ///< how it leaves
  static constexpr Id kStepArrives = -2;  ///< for `item`: how the step arrives by itself
  static constexpr Id kStepLeaves = -3;
  static constexpr int kFarArrive = -1;  ///< for `motion`: the value that it arrives from
  static constexpr int kFarLeave = -2;
  Id layer = 0;
  int step = 0;
  int param = 0;
  Id item = 0;  ///< 0: the step's own parameter
  int motion = 0;
  /// Whether it is the value that is arrived from or left to.
  [[nodiscard]] bool isFar() const { return motion < 0; }
  [[nodiscard]] bool leaving() const { return motion == kFarLeave; }
  bool operator==(const ParamAddress&) const = default;
};

class Heard;
class MediaWatch;

class Document : public QObject {
  Q_OBJECT
 public:
  explicit Document(QObject* parent = nullptr);
  /// What is known of the files that the scene shows.
  [[nodiscard]] MediaWatch& media() const { return *media_; }
  [[nodiscard]] Heard& heard() const { return *heard_; }

  [[nodiscard]] const Scene& scene() const { return scene_; }
  /// The scene as it is looked at: with the fields of its words filled from a row of its table, if one is chosen, and without the motions
  /// of what is held still.
  [[nodiscard]] Scene shownScene() const;
  /// Which row that is; -1: none.
  void showTitle(int row);
  [[nodiscard]] int titleShown() const { return title_; }
  /// That scene compiled; made once for each of its states.
  [[nodiscard]] const Plan& plan() const;
  [[nodiscard]] QUndoStack& history() { return history_; }
  [[nodiscard]] QString path() const { return path_; }
  [[nodiscard]] bool dirty() const { return !history_.isClean() || neverSaved_; }
  /// Changes the scene as one undoable step, "Undo: <label>". Changes with the same non-empty `gesture`
  /// that follow one another are one step, until endGesture().
  void edit(const QString& label, const QString& gesture, const std::function<void(Scene&)>& change);
  /// An operation of core/edit on the layers: what it gives back are the layers that are selected afterwards; undo brings back
  /// those before. What it refuses is said by refused(), and false comes back.
  bool perform(const QString& label, const std::function<Result<Ids>(Scene&)>& operation, const QString& gesture = {});
  /// The same for operations that change what is selected in nothing.
  template <class Operation>
  bool performHere(const QString& label, const Operation& operation) {
    return perform(label, [&](Scene& scene) -> Result<Ids> {
      const auto done = operation(scene);
      if (!done) return tl::unexpected(done.error());
      return selection_;
    });
  }
  /// The states that the history knows, the oldest first: one more than it has steps.
  struct State {
    edit::Snapshot scene;
    QString name;  ///< what was done to come to it; empty for the first
  };
  [[nodiscard]] std::vector<State> states() const;
  /// Which of them the scene is in.
  [[nodiscard]] int stateNow() const { return history_.index(); }
  /// Undoes or does again as many steps as lie between.
  void goToState(int state);
  void endGesture() {
    ++gestureNumber_;
    Q_EMIT gestureEnded();
  }
  /// Shows these values as they are set, without their motions, until it is called with none.
  void holdStill(std::vector<ParamAddress> values);

  /// The colours that colour controls offer: the scene's palette, or where it has none the colours that are used.
  [[nodiscard]] std::vector<Colour> colours() const;

  /// Starts over with a scene, from a file (`path`) or a starter (no path).
  void reset(Scene scene, const QString& path);
  /// The same for work that was rescued: it is not saved yet.
  void resetUnsaved(Scene scene, const QString& path);
  /// Saves to `path` and takes it as the scene's own.
  Status save(const QString& path);

  /// The layer whose recipe is shown, the last of those that were selected; 0: none.
  [[nodiscard]] Id currentLayer() const { return selection_.empty() ? 0 : selection_.back(); }
  [[nodiscard]] const Ids& selection() const { return selection_; }
  void setCurrentLayer(Id layer) { setSelection({layer}); }
  /// Ids that are not there are left out.
  void setSelection(Ids layers);
  /// Null if there is none.
  [[nodiscard]] const Layer* layer() const { return findLayer(scene_, currentLayer()); }
  [[nodiscard]] const Layer* layer(Id id) const { return findLayer(scene_, id); }

  /// The tables of a layer that parameters are found in, null where it has no such step or mask.
  struct Table {
    std::span<const ParamSpec> specs;
    Param* params = nullptr;
    std::size_t count = 0;
  };
  [[nodiscard]] static Table table(Scene& scene, const ParamAddress& at);
  [[nodiscard]] static const ParamSpec& spec(const Scene& scene, const ParamAddress& at);
  [[nodiscard]] static const Param& param(const Scene& scene, const ParamAddress& at);
  [[nodiscard]] static Param& param(Scene& scene, const ParamAddress& at);
  [[nodiscard]] const ParamSpec& spec(const ParamAddress& at) const { return spec(scene_, at); }
  [[nodiscard]] const Param& param(const ParamAddress& at) const { return param(scene_, at); }
  /// The parameter as its row shows it: of a value that is arrived from or left to, that one at rest. Lasts until the next such call.
  [[nodiscard]] const Param& shown(const ParamAddress& at) const;
  /// The parameter as if the motion that is spoken of were its only one; the reference lasts until the next such call.
  [[nodiscard]] const Param& voice(const ParamAddress& at) const;
  /// A step of a layer's recipe, or the source of its mask (ParamAddress::kMaskSource); null if there is none.
  [[nodiscard]] static RecipeStep* step(Scene& scene, Id layer, int step);
  [[nodiscard]] const RecipeStep* step(Id layer, int step) const;
  [[nodiscard]] bool valid(const ParamAddress& at) const;

  /// "Sea fog · churn", for undo texts.
  [[nodiscard]] QString labelOf(const ParamAddress& at) const;
  void setBase(const ParamAddress& at, const Value& value, bool gesture);
  /// Gives a value one of its own to arrive from or leave to, at first what it is itself, or takes that away.
  void setFar(const ParamAddress& at, bool leaving, bool has);
  void setMotion(const ParamAddress& at, const Motion& motion, bool gesture);
  /// As firstMotion() (params/first_motion.h) has it; one that follows begins with what there is to be followed, a little later.
  [[nodiscard]] Motion firstMotionOf(const ParamAddress& at, const Param& param, MotionKind kind) const;
  /// A motion more on a parameter, added to those that it has; asks for its curve to be shown.
  void addMotion(ParamAddress at, MotionKind kind);
  void removeMotion(const ParamAddress& at);
  /// Gives a value the motions that a text from the clipboard holds; what does not fit is said by refused().
  void pasteMotions(const ParamAddress& at, std::string_view text);
  /// An operation of core/edit on the items of a step; what it refuses is said by refused(), and -1 comes back.
  int performOnItems(const QString& label, Id layer, int step, const std::function<Result<int>(RecipeStep&)>& operation,
                     const QString& gesture = {});
  /// Asks for an item of a step to be shown on its card.
  void chooseItem(Id layer, int step, Id item) { Q_EMIT itemChosen(layer, step, item); }
  /// The presence of a layer, or of a step of its recipe behind the source; null if there is none.
  [[nodiscard]] static Presence* presence(Scene& scene, Id layer, int step);
  [[nodiscard]] const Presence* presence(Id layer, int step) const;
  /// Which step's presence the dial shows; 0: the layer's own.
  [[nodiscard]] int presenceStep() const { return presenceStep_; }
  void showPresence(int step);
  /// Asks for a colour to be taken from the picture.
  void pickColour(const ParamAddress& at) { Q_EMIT colourWanted(at); }
  /// The outline whose points, or the repeat whose copies, are taken hold of in the picture; none: nothing is.
  void editInPicture(const std::optional<ParamAddress>& at);
  [[nodiscard]] const std::optional<ParamAddress>& editedInPicture() const { return inPicture_; }
  /// Whether it is of such a type, and of the current layer, which is seen and can be changed.
  [[nodiscard]] bool editsInPicture(ParamType type) const;
  /// Those of the copies that is spoken of; forgotten when something else is edited.
  void chooseCopies(std::vector<std::uint64_t> copies);
  [[nodiscard]] const std::vector<std::uint64_t>& chosenCopies() const { return chosenCopies_; }
  /// Changes each of them.
  void changeCopies(const QString& label, const std::function<void(CopyChange&)>& change, bool gesture);
  /// Asks for the words of a layer to be typed.
  void typeWords(const ParamAddress& at) { Q_EMIT wordsWanted(at); }
  /// Asks for a motion's curve to be shown.
  void showMotion(const ParamAddress& at) { Q_EMIT motionShown(at); }

 Q_SIGNALS:
  /// `structure` is true when layers or steps came, went or moved, and not only values changed.
  void changed(bool structure);
  void currentLayerChanged();
  void fileChanged();  ///< path or dirty state
  void begun();        ///< another scene has come
  void motionShown(const oa::app::ParamAddress& at);
  void itemChosen(oa::Id layer, int step, oa::Id item);
  void colourWanted(const oa::app::ParamAddress& at);
  void presenceShown();
  void titleChanged();
  void heldStillChanged();
  void gestureEnded();
  void inPictureEdited();
  void copiesChosen();
  void wordsWanted(const oa::app::ParamAddress& at);
  /// An operation could not be done; a sentence for the user.
  void refused(const QString& sentence);

 private:
  friend class SceneCommand;
  void apply(const edit::Snapshot& state, const Ids& selection);
  bool push(const QString& label, const QString& gesture, Scene after, const Ids& selectionAfter);

  Scene scene_;
  MediaWatch* media_;
  Heard* heard_;
  QUndoStack history_;
  QString path_;
  bool neverSaved_ = false;
  mutable std::unique_ptr<const Plan> plan_;  // null until somebody asks
  edit::Snapshot state_;                      // of scene_
  Ids selection_;
  int gestureNumber_ = 0;
  int presenceStep_ = 0;
  int title_ = -1;
  std::vector<ParamAddress> still_;
  std::optional<ParamAddress> inPicture_;
  std::vector<std::uint64_t> chosenCopies_;
  QString heldGesture_;  // the gesture that held_ was taken at the beginning of
  Param held_;
  mutable Param far_;            // a value that is arrived from or left to, as if it were a parameter of its own
  std::vector<Item> heldItems_;  // the same where all items are set at once
  mutable Param voice_;          // the one of several motions that was asked for last
};

}  // namespace oa::app
