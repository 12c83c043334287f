#pragma once

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>

#include "session/session.h"
#include "tiles/edging_view.h"
#include "tiles/outline_view.h"
#include "tiles/sheet_view.h"

namespace rubble::app {

/// A sheet being cut up and told what collides. Works on a copy; `sheet` gives what it has become.
class SheetDialog : public QDialog {
    Q_OBJECT
public:
    /// `is_new`: it was just brought in, and what its tiles collide with is guessed as the cut changes.
    SheetDialog(const Session& session, TileSheet sheet, bool is_new, QWidget* parent = nullptr);

    const TileSheet& sheet() const { return *sheet_; }

private:
    QWidget* build_cut();
    QWidget* build_collision();
    QWidget* build_edging();
    void add_ground();
    void show_edging();
    void give_to_case();
    void rename_ground(const QString& name);
    void cut_pictures();
    void add_grey_piece();
    void show_numbers_of_cut();
    void show_corner();
    void take_corner();
    void offer_ramp();
    QSpinBox* add_number(class QFormLayout* form, const QString& name, int least, int value);
    void take_cut();
    void guess_all();
    void change(TileSheet sheet);
    void show_cut();
    void show_chosen();
    void set_collision(int kind);
    void take_outline();
    void shape_outline(const std::function<std::vector<Vec2>(std::vector<Vec2>)>& how);
    std::array<int, 9> around(int number) const;

    const Session& session_;
    std::shared_ptr<const TileSheet> sheet_;
    std::shared_ptr<const TileSheet> begun_; ///< as it was brought in, from which a cut starts
    bool guesses_;
    bool showing_ = false;
    SheetView* view_ = nullptr;
    OutlineView* outline_ = nullptr;
    QSpinBox *cell_w_ = nullptr, *cell_h_ = nullptr, *margin_ = nullptr, *spacing_ = nullptr;
    QLabel *counts_ = nullptr, *size_ = nullptr, *chosen_text_ = nullptr;
    QButtonGroup* kinds_ = nullptr;
    QComboBox *parts_ = nullptr, *ways_ = nullptr;
    QSpinBox* gap_ = nullptr;
    class QFormLayout* cut_form_ = nullptr;
    QLineEdit* name_ = nullptr;
    QDoubleSpinBox *corner_x_ = nullptr, *corner_y_ = nullptr;
    QPushButton *ramp_ = nullptr, *paste_ = nullptr;
    std::vector<Vec2> copied_; ///< an outline to be given to other tiles
    class TileSize* drawn_size_ = nullptr;
    QSpinBox* tolerance_ = nullptr;
    QTabWidget* tabs_ = nullptr;
    QComboBox* grounds_ = nullptr;
    QCheckBox* corners_ = nullptr;
    EdgingView* edging_ = nullptr;
    QLabel* missing_ = nullptr;
};

} // namespace rubble::app
