#pragma once

#include <QDialog>
#include <QImage>
#include <QListWidget>

#include "level/dressing/material.h"
#include "level/tiles/tile_sheet.h"

namespace rubble::app {

/// A picture with the prints on it as frames: one is drawn by dragging over what is in none, moved by
/// dragging it, and sized by its lower right corner.
class PrintsView : public QWidget {
    Q_OBJECT
public:
    PrintsView(QImage picture, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {320, 320}; }

    const std::map<std::string, PrintRegion>& prints() const { return prints_; }
    void set_prints(std::map<std::string, PrintRegion> prints);
    void choose(const std::string& name);
    const std::string& chosen() const { return chosen_; }
    /// Where a pixel of the picture is shown.
    QPointF shown_at(int x, int y) const;

signals:
    void changed();
    void chosenChanged();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    QRectF room() const;
    QPoint pixel_at(QPointF at) const;
    QRectF frame_of(const PrintRegion& region) const;

    enum class Hand { none, draws, moves, sizes };
    QImage picture_;
    std::map<std::string, PrintRegion> prints_;
    std::string chosen_;
    Hand hand_ = Hand::none;
    QPoint from_;
    PrintRegion before_;
};

/// The prints of a material: found by what is empty between them, or by a grid, or drawn over the picture.
class PrintsDialog : public QDialog {
    Q_OBJECT
public:
    explicit PrintsDialog(const Material& material, QWidget* parent = nullptr);
    /// The material with the prints as they are now; one of prints where there are any.
    Material material() const;
    PrintsView& view() { return *view_; }

private:
    void fill();
    void rename(QListWidgetItem* item);

    Material material_;
    Picture pixels_;
    PrintsView* view_;
    QListWidget* list_;
};

} // namespace rubble::app
