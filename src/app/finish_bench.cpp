// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bench.h"
#include "app/look_around_window.h"
#include "app/slider_grid.h"
#include "app/theme.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

namespace ml {
namespace {

using Reads = SliderControl::Reads;

/// What one slider shows and changes.
struct Bound {
  SliderControl control;
  std::function<double(const Recipe&)> get;
  std::function<void(Recipe&, double)> set;
};

template <class Owner> Bound toneBound(SliderControl c, double Owner::*field) {
  return {std::move(c), [field](const Recipe& r) { return r.tone.*field; },
          [field](Recipe& r, double v) { r.tone.*field = v; }};
}

Bound shapeBound(SliderControl c, double Geometry::*field) {
  return {std::move(c), [field](const Recipe& r) { return r.geometry.*field; },
          [field](Recipe& r, double v) { r.geometry.*field = v; }};
}

class FinishBench final : public Bench {
public:
  explicit FinishBench(FinishModel& finish) : Bench(finish), finish_(finish) {
    auto* column = new QVBoxLayout;
    column->setSpacing(4);
    auto* sides = new QHBoxLayout;
    sides->setSpacing(2);
    pages_ = new QStackedWidget;
    addPage(sides, "sideLight", tr("On paper"), lightPage());
    addPage(sides, "sideColour", tr("White and colour"), colourPage());
    addPage(sides, "sideShape", tr("Lines and crop"), shapePage());
    addPage(sides, "sidePlaces", tr("Areas"), placesPage());
    addPage(sides, "sideMend", tr("Clean up"), mendPage());
    addPage(sides, "sideLooks", tr("Looks"), looksPage());
    sides->addStretch();
    lookAround_ =
        small("lookAroundButton", tr("Look around"), tr("The sphere as seen by somebody who stands in it (O)"));
    sides->addWidget(lookAround_);
    connect(lookAround_, &QPushButton::clicked, this, [this] { (new LookAroundWindow(finish_, window()))->show(); });
    remedy_ = small("remedy", {}, tr("Puts the worst finding right (M)"));
    before_ = small("before", tr("One exposure"),
                    tr("While held (B): the view as one exposure would show it, simulated from the combined light"));
    clipping_ = small("clipping", tr("White, black"), tr("Patterns over what is at white or at black (X)"));
    clipping_->setCheckable(true);
    connect(clipping_, &QPushButton::clicked, &finish_, &FinishModel::showClipping);
    side_->addWidget(remedy_);
    auto* looks = new QHBoxLayout;
    looks->setSpacing(6);
    looks->addWidget(clipping_);
    looks->addWidget(before_);
    side_->addLayout(looks);
    connect(remedy_, &QPushButton::clicked, &finish_, &FinishModel::remedy);
    connect(before_, &QPushButton::pressed, &finish_, [this] { finish_.finished.hold(true); });
    connect(before_, &QPushButton::released, &finish_, [this] { finish_.finished.hold(false); });
    column->addLayout(sides);
    column->addWidget(pages_, 1);
    row_->addLayout(column, 1);
  }

  void refresh() override {
    const Recipe& recipe = finish_.recipe();
    const bool ready = view().combined.has_value();
    const QSignalBlocker quiet(look_);
    const auto all = finish_.allLooks();
    if (look_->count() != int(all.size())) {
      look_->clear();
      for (const auto& l : all) look_->addItem(QString::fromStdString(l.name), QString::fromStdString(l.id));
    }
    look_->setCurrentIndex(std::max(0, look_->findData(QString::fromStdString(recipe.look))));
    strength_->setValue(0, recipe.strength);
    pages_->setEnabled(ready);
    before_->setEnabled(ready);
    lookAround_->setVisible(LookAround::possible(finish_));
    foot_->setVisible(LookAround::possible(finish_));
    lens_->setVisible(!LookAround::possible(finish_)); // a sphere has none
    clipping_->setEnabled(ready);
    clipping_->setChecked(finish_.showsClipping());
    for (const auto& [grid, bounds] : grids_)
      for (std::size_t i = 0; i < bounds.size(); ++i) grid->setValue(int(i), bounds[i].get(recipe));
    refreshPlaces(recipe);
    refreshWhite();
    lens_->setChecked(recipe.geometry.lens);
    for (const auto& [tool, button] : tools_) button->setChecked(finish_.tools.tool() == tool);
    const QSignalBlocker quietCompare(compare_);
    compare_->setCurrentIndex(int(finish_.compare.how()));
    refreshAgainst();
    refreshCrop();
    const Finding* worst = finish_.finished.worstFinding();
    remedy_->setVisible(worst != nullptr);
    if (worst) remedy_->setText(QString::fromStdString(remedyWords(worst->kind)));
  }

private:
  QWidget* looksPage() {
    auto* made = new QWidget;
    auto* row = new QHBoxLayout(made);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(14);
    const auto column = [&](const QString& title) {
      auto* c = new QVBoxLayout;
      c->setSpacing(2);
      auto* label = new QLabel(title);
      label->setProperty("role", "quiet");
      label->setFont(uiFont(9));
      c->addWidget(label);
      row->addLayout(c);
      return c;
    };
    auto* first = column(tr("Start from"));
    look_ = new QComboBox;
    look_->setObjectName("look");
    look_->setFixedWidth(grown(220));
    first->addWidget(look_);
    strength_ = new SliderGrid({{"lookStrength", tr("How much of it"), 0, 100, 0.01, Reads::Percent, {}, 100}}, 1);
    strength_->setFixedWidth(grown(220));
    first->addWidget(strength_);
    first->addStretch();
    auto* second = column(tr("Use again"));
    keep_ = small("keepLook", tr("Keep as a look..."), tr("Keep this light and colour as a look of your own"));
    copy_ =
        small("copyFinish", tr("To the other views"),
              tr("Every other view of the job takes this finish; each keeps its own white point, shape and placement"));
    second->addWidget(keep_);
    second->addWidget(copy_);
    second->addStretch();
    auto* third = column(tr("Compare with"));
    against_ = new QComboBox;
    against_->setObjectName("against");
    against_->setFixedWidth(grown(250));
    compare_ = new QComboBox;
    compare_->setObjectName("comparing");
    compare_->addItems({tr("not now"), tr("behind a divider"), tr("side by side")});
    third->addWidget(against_);
    third->addWidget(compare_);
    third->addStretch();
    connect(against_, &QComboBox::activated, this, [this](int index) {
      const auto all = finish_.compare.comparands();
      if (index >= 0 && index < int(all.size())) finish_.compare.with(all[std::size_t(index)]);
    });
    row->addStretch();
    connect(look_, &QComboBox::activated, this,
            [this] { finish_.chooseLook(look_->currentData().toString().toStdString(), 1); });
    connect(strength_, &SliderGrid::moved, this,
            [this](int, double value, int drag) { finish_.chooseLook(finish_.recipe().look, value, drag); });
    connect(keep_, &QPushButton::clicked, this, [this] {
      bool yes = false;
      const QString name =
          QInputDialog::getText(this, tr("A look of your own"), tr("Name"), QLineEdit::Normal, {}, &yes);
      if (yes && !name.trimmed().isEmpty()) finish_.saveLook(name);
    });
    connect(copy_, &QPushButton::clicked, &finish_, &FinishModel::copyToOtherViews);
    connect(compare_, &QComboBox::activated, &finish_, [this](int how) { finish_.compare.set(Comparing(how)); });
    return made;
  }

  static constexpr int kColourPage = 1, kShapePage = 2, kPlacesPage = 3;

  QPushButton* small(const char* name, const QString& text, const QString& tip) {
    auto* button = new QPushButton(text);
    button->setObjectName(name);
    button->setToolTip(tip);
    button->setProperty("role", "small");
    return button;
  }

  void addPage(QHBoxLayout* sides, const char* name, const QString& text, QWidget* page) {
    auto* side = new QToolButton;
    side->setObjectName(name);
    side->setText(text);
    side->setCheckable(true);
    side->setAutoExclusive(true);
    side->setProperty("role", "side");
    const int index = pages_->addWidget(page);
    side->setChecked(index == 0);
    sides->addWidget(side);
    connect(side, &QToolButton::clicked, this, [this, index] {
      pages_->setCurrentIndex(index);
      using Page = FinishTools::Page;
      finish_.tools.setPage(index == kColourPage   ? Page::Colour
                            : index == kShapePage  ? Page::Shape
                            : index == kPlacesPage ? Page::Places
                                                   : Page::Other);
    });
  }

  SliderGrid* bind(std::vector<Bound> bounds, int across = 3) {
    std::vector<SliderControl> controls;
    for (const auto& b : bounds) {
      controls.push_back(b.control);
      controls.back().usual = int(std::lround(b.get(Recipe{}) / b.control.unit));
    }
    auto* grid = new SliderGrid(controls, across);
    connect(grid, &SliderGrid::moved, this, [this, bounds](int index, double value, int drag) {
      Recipe recipe = finish_.recipe();
      bounds[std::size_t(index)].set(recipe, value);
      finish_.setRecipe(recipe, drag);
    });
    grids_.emplace_back(grid, std::move(bounds));
    return grid;
  }

  QPushButton* toolButton(const char* name, FinishTool tool, const QString& text, const QString& tip) {
    auto* button = small(name, text, tip);
    button->setCheckable(true);
    tools_.emplace_back(tool, button);
    connect(button, &QPushButton::clicked, this,
            [this, tool](bool on) { finish_.tools.choose(on ? tool : FinishTool::Light); });
    return button;
  }

  /// Sliders, and buttons in a column beside them.
  QWidget* page(QWidget* grid, const std::vector<QWidget*>& beside) {
    auto* made = new QWidget;
    auto* row = new QHBoxLayout(made);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    row->addWidget(grid, 1, Qt::AlignTop);
    if (!beside.empty()) {
      auto* column = new QVBoxLayout;
      column->setSpacing(4);
      for (QWidget* w : beside) column->addWidget(w);
      column->addStretch();
      row->addLayout(column);
    }
    return made;
  }

  QWidget* lightPage() {
    auto* grid = bind(
        {toneBound({"exposure", tr("Brightness on paper"), -90, 90, 1.0 / 30, Reads::Stops}, &ToneSettings::exposure),
         Bound{{"balance", tr("Balance window and room"), -100, 100, 0.01, Reads::Percent,
                tr("In the middle as it was placed; to the left the window as bright as in one exposure, to the right "
                   "darker")},
               [](const Recipe& r) { return balanceShown(r.tone.balance); },
               [](Recipe& r, double v) { r.tone.balance = balanceFrom(v); }},
         toneBound({"detail", tr("Small contrast"), 0, 200, 0.01, Reads::Percent, tr("In cloth, grain, leaves")},
                   &ToneSettings::detail),
         toneBound({"form", tr("Large contrast"), 0, 200, 0.01, Reads::Percent,
                    tr("In larger things: folds, chairs, clouds")},
                   &ToneSettings::form),
         toneBound({"veil", tr("Haze taken away"), 0, 100, 0.01}, &ToneSettings::veil),
         toneBound(
             {"quiet", tr("Quiet shadows"), 0, 200, 0.01, Reads::Percent, tr("Holds texture back where it is noise")},
             &ToneSettings::quiet)});
    auto* clear =
        small("clearPulls", tr("Take drags back"), tr("Takes back what was dragged on the Ladder and in the picture"));
    connect(clear, &QPushButton::clicked, this, [this] {
      Recipe recipe = finish_.recipe();
      recipe.tone.pulls.clear();
      finish_.setRecipe(recipe);
    });
    return page(grid, {clear});
  }

  QWidget* colourPage() {
    auto* grid =
        bind({toneBound({"warmth", tr("Warmth"), -240, 240, 1.0 / 60, Reads::Stops}, &ToneSettings::warmth),
              toneBound({"tint", tr("Green to magenta"), -120, 120, 1.0 / 60, Reads::Stops}, &ToneSettings::tint),
              toneBound({"colour", tr("Depth of colour"), 0, 160, 0.01}, &ToneSettings::saturation),
              toneBound({"vivid", tr("Depth of pale colours"), -100, 150, 0.01, Reads::Percent,
                         tr("Vivid colours are left alone")},
                        &ToneSettings::vivid)},
             2);
    takeWhite_ = small("takeWhite", tr("Use the white found"), {});
    connect(takeWhite_, &QPushButton::clicked, &finish_, &FinishModel::takeWhiteTrim);
    auto* clear = small("clearHues", tr("Take colours back"), tr("Takes back all single colours that were dragged"));
    connect(clear, &QPushButton::clicked, this, [this] {
      Recipe recipe = finish_.recipe();
      recipe.hues.clear();
      finish_.setRecipe(recipe);
    });
    auto* tools = new QWidget;
    auto* cells = new QGridLayout(tools);
    cells->setContentsMargins(0, 0, 0, 0);
    cells->setSpacing(4);
    cells->addWidget(takeWhite_, 0, 0);
    cells->addWidget(toolButton("toolWhite", FinishTool::White, tr("This is white"),
                                tr("Click something that is white or grey in life")),
                     0, 1);
    cells->addWidget(toolButton("toolColour", FinishTool::Colour, tr("Drag a colour"),
                                tr("Drag a colour in the picture: across for depth, up and down for lightness")),
                     1, 0);
    cells->addWidget(clear, 1, 1);
    return page(grid, {tools});
  }

  QWidget* shapePage() {
    auto* grid = bind({shapeBound({"roll", tr("Roll"), -300, 300, 0.1, Reads::Degrees}, &Geometry::roll),
                       shapeBound({"pitch", tr("Pitch"), -300, 300, 0.1, Reads::Degrees}, &Geometry::pitch),
                       shapeBound({"yaw", tr("Yaw"), -300, 300, 0.1, Reads::Degrees}, &Geometry::yaw),
                       shapeBound({"plumbStrength", tr("How much"), 0, 100, 0.01}, &Geometry::strength)},
                      2);
    auto* setPlumb = small("setPlumb", tr("Set plumb"), tr("Finds plumb lines in the picture and sets them plumb"));
    auto* horizon = small("findHorizon", tr("Set level"), tr("Finds level lines in the picture and levels them"));
    auto* undo = small("clearShape", tr("As it was shot"), tr("No turning, no crop"));
    connect(setPlumb, &QPushButton::clicked, &finish_.tools, &FinishTools::setPlumb);
    connect(horizon, &QPushButton::clicked, &finish_.tools, &FinishTools::findHorizon);
    connect(undo, &QPushButton::clicked, this, [this] {
      Recipe recipe = finish_.recipe();
      recipe.geometry = {};
      finish_.setRecipe(recipe);
    });
    auto* both = new QWidget;
    auto* lines = new QGridLayout(both);
    lines->setContentsMargins(0, 0, 0, 0);
    lines->setSpacing(4);
    lines->addWidget(setPlumb, 0, 0);
    lines->addWidget(horizon, 1, 0);
    lines->addWidget(toolButton("toolLevel", FinishTool::Level, tr("Draw a line"),
                                tr("Draw along a line that is plumb or level in life")),
                     0, 1);
    lines->addWidget(toolButton("toolCrop", FinishTool::Crop, tr("Cut"), tr("Drag the part to keep")), 1, 1);
    lines->addWidget(undo, 2, 0);
    lines->addWidget(toolButton("toolCorners", FinishTool::Corners, tr("Four corners"),
                                tr("Click the four corners of something that is a rectangle in life")),
                     2, 1);
    ratio_ = new QComboBox;
    ratio_->setObjectName("cropRatio");
    ratio_->setToolTip(tr("Proportions of the part that is kept; they lie or stand as the picture or the drag does"));
    for (const auto& [name, ratio] : {std::pair{tr("any shape"), 0.0},
                                      {tr("3 : 2"), 1.5},
                                      {tr("4 : 3"), 4 / 3.0},
                                      {tr("5 : 4"), 1.25},
                                      {tr("1 : 1"), 1.0},
                                      {tr("16 : 9"), 16 / 9.0},
                                      {tr("2 : 1"), 2.0}})
      ratio_->addItem(name, ratio);
    connect(ratio_, &QComboBox::activated, this,
            [this] { finish_.tools.setCropRatio(ratio_->currentData().toDouble()); });
    guide_ = new QComboBox;
    guide_->setObjectName("cropGuide");
    guide_->setToolTip(tr("Lines to compose by"));
    guide_->addItems({tr("no lines"), tr("thirds"), tr("golden cut"), tr("middle"), tr("diagonals")});
    connect(guide_, &QComboBox::activated, this, [this](int index) { finish_.tools.setCropGuide(CropGuide(index)); });
    lines->addWidget(ratio_, 0, 2);
    lines->addWidget(guide_, 1, 2);
    return page(grid, {both});
  }

  Bound areaBound(SliderControl c, double Area::*field) {
    return {std::move(c),
            [this, field](const Recipe& r) {
              const auto at = std::size_t(finish_.tools.selectedArea());
              return at < r.areas.size() ? r.areas[at].*field : Area{}.*field;
            },
            [this, field](Recipe& r, double v) {
              if (finish_.tools.selectedArea() >= 0) r.areas[std::size_t(finish_.tools.selectedArea())].*field = v;
            }};
  }

  static constexpr int kEvLow = -60, kEvHigh = 200; ///< Tenths of EV; at its end a limit is none.
  static constexpr double kEvStep = 0.1;

  Bound limitBound(SliderControl c, std::optional<double> Area::*field, int none) {
    return {std::move(c),
            [this, field, none](const Recipe& r) {
              const int at = finish_.tools.selectedArea();
              const auto limit =
                  at < 0 || std::size_t(at) >= r.areas.size() ? std::nullopt : r.areas[std::size_t(at)].*field;
              return limit ? *limit + finish_.finished.ev100OfUnit() : none * kEvStep;
            },
            [this, field, none](Recipe& r, double ev) {
              const int at = finish_.tools.selectedArea();
              if (at < 0) return;
              auto& limit = r.areas[std::size_t(at)].*field;
              if (std::abs(ev - none * kEvStep) < kEvStep / 2)
                limit.reset();
              else
                limit = ev - finish_.finished.ev100OfUnit();
            }};
  }

  QWidget* placesPage() {
    placeSliders_ = bind({areaBound({"areaExposure", tr("Light"), -90, 90, 1.0 / 30, Reads::Plain}, &Area::exposure),
                          areaBound({"areaWarmth", tr("Warm"), -120, 120, 1.0 / 60, Reads::Plain}, &Area::warmth),
                          areaBound({"areaTint", tr("Pink"), -120, 120, 1.0 / 60, Reads::Plain}, &Area::tint),
                          areaBound({"areaSaturation", tr("Colour"), -100, 100, 0.01}, &Area::saturation),
                          areaBound({"areaContrast", tr("Contrast"), -100, 100, 0.01}, &Area::contrast),
                          areaBound({"areaSoftness", tr("Edge"), 0, 100, 0.01}, &Area::softness),
                          limitBound({"areaAbove", tr("From"), kEvLow, kEvHigh, kEvStep, Reads::FromEv,
                                      tr("Only light of this reading and brighter")},
                                     &Area::above, kEvLow),
                          limitBound({"areaBelow", tr("Up to"), kEvLow, kEvHigh, kEvStep, Reads::ToEv,
                                      tr("Only light up to this reading")},
                                     &Area::below, kEvHigh)},
                         4);
    auto* made = new QWidget;
    auto* grid = new QGridLayout(made);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(4);
    area_ = new QComboBox;
    area_->setObjectName("area");
    area_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    area_->setMinimumContentsLength(textSize() > 1 ? 8 : 6);
    area_->setToolTip(tr("The area that the sliders change"));
    connect(area_, &QComboBox::activated, &finish_.tools, &FinishTools::selectArea);
    auto* windows = small("addWindows", tr("Windows"), tr("All windows, found from their light"));
    auto* remove = small("removeArea", tr("Remove"), tr("Removes the chosen area"));
    auto* sky = small("addSky", tr("Sky"), tr("The sky of a landscape, down to the horizon and through branches"));
    auto* white = toolButton("toolPlaceWhite", FinishTool::PlaceWhite, tr("White"),
                             tr("Click something white in the chosen area: the area gets a white point of its own"));
    connect(windows, &QPushButton::clicked, &finish_, [this] { finish_.tools.addFound(AreaShape::Windows); });
    connect(sky, &QPushButton::clicked, &finish_, [this] { finish_.tools.addFound(AreaShape::Sky); });
    connect(remove, &QPushButton::clicked, &finish_.tools, &FinishTools::removeArea);
    inverted_ = new QCheckBox(tr("the rest"));
    inverted_->setObjectName("areaInverted");
    inverted_->setToolTip(tr("The rest of the picture instead: all but the chosen area"));
    connect(inverted_, &QCheckBox::clicked, this, [this](bool on) {
      Recipe recipe = finish_.recipe();
      if (finish_.tools.selectedArea() >= 0) recipe.areas[std::size_t(finish_.tools.selectedArea())].inverted = on;
      finish_.setRecipe(recipe);
    });
    grid->addWidget(area_, 0, 0);
    grid->addWidget(inverted_, 0, 1);
    grid->addWidget(remove, 0, 2);
    grid->addWidget(toolButton("toolOval", FinishTool::Oval, tr("Oval"), tr("Drag from the middle of an area")), 1, 0);
    grid->addWidget(
        toolButton("toolRamp", FinishTool::Ramp, tr("Ramp"), tr("Drag from where it is full to where it ends")), 1, 1);
    grid->addWidget(toolButton("toolBrush", FinishTool::Brush, tr("Brush"),
                               tr("Paint an area; it ends at the picture's own edges")),
                    1, 2);
    grid->addWidget(windows, 2, 0);
    grid->addWidget(sky, 2, 1);
    grid->addWidget(white, 2, 2);
    kept_ = new QToolButton;
    kept_->setObjectName("keptAreas");
    kept_->setText(tr("Kept"));
    kept_->setToolTip(tr("Keep this area by name, or lay one that was kept over this picture"));
    kept_->setPopupMode(QToolButton::InstantPopup);
    kept_->setProperty("role", "tight");
    kept_->setMenu(new QMenu(kept_));
    connect(kept_->menu(), &QMenu::aboutToShow, this, &FinishBench::fillKept);
    grid->addWidget(kept_, 0, 3);
    return page(placeSliders_, {made});
  }

  void fillKept() {
    QMenu* menu = kept_->menu();
    menu->clear();
    QAction* keep = menu->addAction(tr("Keep this area..."), this, [this] {
      bool yes = false;
      const QString name =
          QInputDialog::getText(this, tr("An area of your own"), tr("Name"), QLineEdit::Normal, {}, &yes);
      if (yes) finish_.tools.keepArea(name);
    });
    keep->setEnabled(finish_.tools.selectedArea() >= 0);
    menu->addSeparator();
    for (const Look& area : finish_.desk().areas.looks())
      menu->addAction(text(area.name), this, [this, id = area.id] { finish_.tools.layArea(id); });
  }

  QWidget* mendPage() {
    auto* grid =
        bind({{{"denoise", tr("Noise taken away"), 0, 100, 0.01, Reads::Percent,
                tr("As much as was measured at each tone; edges stay")},
               [](const Recipe& r) { return r.denoise; },
               [](Recipe& r, double v) { r.denoise = v; }},
              {{"sharpening", tr("Sharpness"), 0, 150, 0.01, Reads::Percent, {}},
               [](const Recipe& r) { return r.sharpening; },
               [](Recipe& r, double v) { r.sharpening = v; }},
              shapeBound({"redFringe", tr("Red fringes"), -50, 50, 0.1, Reads::Plain}, &Geometry::redFringe),
              shapeBound({"blueFringe", tr("Blue fringes"), -50, 50, 0.1, Reads::Plain}, &Geometry::blueFringe),
              shapeBound({"distortion", tr("Bent lines"), -100, 100, 0.001, Reads::Percent}, &Geometry::distortion),
              shapeBound({"vignetting", tr("Dark corners"), -60, 60, 1.0 / 30, Reads::Stops}, &Geometry::vignetting)});
    foot_ = bind({{{"foot", tr("Foot of the stand"), 0, 40, 1, Reads::Degrees,
                    tr("Covers what a sphere shows of its own stand, so far from straight down")},
                   [](const Recipe& r) { return r.foot; },
                   [](Recipe& r, double v) { r.foot = v; }}},
                 1);
    lens_ = new QCheckBox(tr("lens profile"));
    lens_->setObjectName("lensProfile");
    lens_->setToolTip(tr("Bent lines, coloured edges and dark corners as the profile of this lens says"));
    connect(lens_, &QCheckBox::clicked, this, [this](bool on) {
      Recipe recipe = finish_.recipe();
      recipe.geometry.lens = on;
      finish_.setRecipe(recipe);
    });
    auto* undo = small("clearHealing", tr("Uncover all"), {});
    connect(undo, &QPushButton::clicked, this, [this] {
      Recipe recipe = finish_.recipe();
      recipe.healings.clear();
      finish_.setRecipe(recipe);
    });
    auto* covers = new QWidget;
    auto* row = new QHBoxLayout(covers);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(toolButton("toolHeal", FinishTool::Heal, tr("Cover a spot"),
                              tr("Click a small thing, or drag as far as it reaches: what lies beside it covers it")));
    row->addWidget(undo);
    return page(grid, {covers, lens_, foot_});
  }

  void refreshAgainst() {
    const QSignalBlocker quiet(against_);
    const auto all = finish_.compare.comparands();
    against_->clear();
    for (const auto& c : all) {
      against_->addItem(c.name);
      against_->setItemData(against_->count() - 1, c.about, Qt::ToolTipRole);
      if (c.same(finish_.compare.comparand())) against_->setCurrentIndex(against_->count() - 1);
    }
  }

  void refreshCrop() {
    const QSignalBlocker quietRatio(ratio_), quietGuide(guide_);
    ratio_->setCurrentIndex(std::max(0, ratio_->findData(finish_.tools.cropRatio())));
    guide_->setCurrentIndex(int(finish_.tools.cropGuide()));
  }

  void refreshWhite() {
    const WhiteTrim* white = finish_.finished.whiteTrim();
    takeWhite_->setEnabled(white && white->change > 0.5);
    takeWhite_->setToolTip(
        !white ? tr("No white paint is found in this picture")
               : tr("White paint found where it is marked, %1; white changes by %2 (CIEDE2000). Key N takes it.")
                     .arg(white->sure > 0.5 ? tr("quite surely") : tr("not too surely"))
                     .arg(white->change, 0, 'f', 1));
  }

  void refreshPlaces(const Recipe& recipe) {
    static const char* kNames[] = {QT_TR_NOOP("Oval"), QT_TR_NOOP("Ramp"), QT_TR_NOOP("Brush"), QT_TR_NOOP("Windows"),
                                   QT_TR_NOOP("Sky")};
    const QSignalBlocker quiet(area_);
    area_->clear();
    int n = 0;
    for (const Area& a : recipe.areas) area_->addItem(tr("%1  %2").arg(++n).arg(tr(kNames[int(a.shape)])));
    const int at = finish_.tools.selectedArea();
    if (recipe.areas.empty()) area_->addItem(tr("no area yet"));
    area_->setCurrentIndex(std::max(0, at));
    area_->setEnabled(at >= 0);
    placeSliders_->setReady(at >= 0);
    inverted_->setEnabled(at >= 0);
    inverted_->setChecked(at >= 0 && recipe.areas[std::size_t(at)].inverted);
  }

  FinishModel& finish_;
  QComboBox *look_, *against_, *compare_, *area_, *ratio_, *guide_;
  SliderGrid *strength_, *placeSliders_;
  SliderGrid* foot_;
  QPushButton *keep_, *copy_, *remedy_, *before_, *clipping_, *takeWhite_, *lookAround_;
  QCheckBox *inverted_, *lens_;
  QToolButton* kept_;
  QStackedWidget* pages_;
  std::vector<std::pair<SliderGrid*, std::vector<Bound>>> grids_;
  std::vector<std::pair<FinishTool, QPushButton*>> tools_;
};

} // namespace

Bench* makeFinishBench(FinishModel& finish) {
  return new FinishBench(finish);
}

} // namespace ml
