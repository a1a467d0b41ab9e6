"""The window: Qt Widgets. Views draw a plan and send edits; they keep no facts of their own and work out no geometry."""
