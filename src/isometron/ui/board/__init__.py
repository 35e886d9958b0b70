"""The sheet under the hand: view, layers, marks, handles, touch, plan."""
