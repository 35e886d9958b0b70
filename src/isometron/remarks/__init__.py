"""Second look: what an experienced colleague would remark now. One function per rule."""
