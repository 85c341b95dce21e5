"""What is made from a chart: arrangements, lessons, hand-outs."""
