"""What has to be measured first, what to measure next, and placeholder sizes to draw a dashed example by."""
