// SPDX-License-Identifier: GPL-3.0-or-later
// The Marl Quay ferry house, jetty at dusk: an invented place, rendered as scene-linear radiance.
// Part chooses what is rendered (render.sh calls it once for each):
//   0 what fades with the day, without anything that moves   8 the same by lamp light alone (does not fade)
//   1 a walker on the jetty   3 the sail   4 the reeds   5 the water at another moment
//   6 where moving things show (white: everywhere)   7 where the lake lies (white)
// Frame=n moves what Part shows; random placement stays fixed.
#version 3.7;
#include "functions.inc"
#ifndef(Part) #declare Part=0; #end
#ifndef(Frame) #declare Frame=0; #end
#declare Still=(Part=0|Part=5|Part=7|Part=8);
#declare Day=(Part!=8 & Part!=7 & Part!=6);
#declare Lamps=(Part=8);
#declare Lit=(Part!=6 & Part!=7);
#declare Room=0;
#declare R=seed(2207);
#macro rr(a,b) (a+(b-a)*rand(R)) #end
#include "../common.inc"
#declare K=(Day?1:0);           // daylight on or off
global_settings{ assumed_gamma 1.0 max_trace_level 8 adc_bailout 0.0002 }
#default{ finish{ ambient 0 emission 0 diffuse 1 } }
#declare LakeY=-1.25;
camera{ location <-3.1,1.05,-6.2> right x*1.5 up y angle 62 look_at <1.2,0.55,6> }

// ---------------------------------------------------------------- light: afterglow behind the far shore, blue dome above
#declare GlowDir=vnormalize(<-0.20,-0.02,1>);
#declare SkyTop=<0.10,0.19,0.42>;
#if(Day)
light_source{ <0,6000,-2000> rgb <0.30,0.45,0.85>*0.32 parallel point_at 0 area_light x*9000,z*9000,5,5 area_illumination on }
light_source{ <-1200,420,6000> rgb <1.0,0.52,0.26>*0.55 parallel point_at 0 area_light x*2400,y*500,5,2 area_illumination on }
#end
#macro OutFin(D,Em) finish{diffuse D emission <0.8,0.85,1.1>*Em*0.035*K} #end // the shared things, at dusk
#macro Amb(D) finish{diffuse D emission <0.16,0.22,0.36>*0.33*K} #end

// ---------------------------------------------------------------- sky
#if(Part=0|Part=5|Part=8)
#declare GX=GlowDir.x; #declare GY=GlowDir.y; #declare GZ=GlowDir.z;
#declare Near=function(x,y,z){ pow(max(0,(x*GX+y*GY*0.2+z*GZ)/9500),5) };
sphere{0,9500 hollow no_shadow
 texture{ pigment{ function{ y/9500 } color_map{ [0.0 rgb <1.0,0.62,0.36>*2.6*K][0.035 rgb <0.95,0.58,0.40>*2.1*K][0.09 rgb <0.60,0.47,0.50>*1.35*K][0.2 rgb <0.27,0.35,0.56>*0.95*K][0.45 rgb SkyTop*1.5*K][1 rgb SkyTop*0.55*K] } } finish{diffuse 0 emission 1} }
 texture{ pigment{ function{ Near(x,y,z)*pow(max(0,1-y/3300),3) } color_map{[0 rgbt<1,.5,.2,1>][0.4 rgbt<6*K,2.9*K,1.05*K,.75>][1 rgbt<34*K,18*K,7.5*K,.15>]} } finish{diffuse 0 emission 1} }
 // long bars of cloud, lit from below near the glow
 texture{ pigment{ granite turbulence 0.30 octaves 6 omega 0.5 color_map{[0.0 rgbt<1,1,1,1>][0.50 rgbt<1.1*K,.55*K,.40*K,1>][0.60 rgbt<2.6*K,1.05*K,.55*K,.35>][0.70 rgbt<.72*K,.42*K,.45*K,.15>][1 rgbt<.20*K,.22*K,.34*K,.1>]} scale <1.15,0.16,1.0> translate <0.37,0.085,0.61> scale 9500 } finish{diffuse 0 emission 1} }
}
// the sun is just down: a bright rim behind the ridge gives the glints
sphere{<-0.205,0.012,1>*9000,55 pigment{rgb<1,.58,.24>*420*K} finish{diffuse 0 emission 1} no_shadow}
#end

// ---------------------------------------------------------------- far shore
#if(Still)
#declare Th1=function(x,y){ min(1,max(0,(0.2+0.85*f_noise3d(x*7+1.3,y*3,4.7)*0.8+0.25*f_noise3d(x*22,y*9,2.1))*min(1,y*4)*(0.35+0.9*abs(x-0.46))))}
#declare H1=object{ HF(Th1,420) scale<1900,74,700> translate<-950,LakeY-1.0,560> };
object{H1 texture{ pigment{granite color_map{[0 rgb<.020,.032,.014>][1 rgb<.06,.07,.035>]} scale 60} Amb(.7)} texture{pigment{rgbt<.40*K,.30*K,.30*K,.93>} finish{diffuse 0 emission 1}} }
#declare Th2=function(x,y){ min(1,max(0,(0.2+0.9*f_noise3d(x*6+2.1,y*3,6.7)*0.8+0.18*f_noise3d(x*25,y*9,5.1)+0.05*f_noise3d(x*90,y*40,5.1))*min(1,y*3)))}
object{ HF(Th2,500) scale<5200,250,1700> translate<-2600,LakeY-2,1700> texture{pigment{rgb<.03,.035,.03>} Amb(.7)} texture{pigment{rgbt<.92*K,.58*K,.50*K,.72>} finish{diffuse 0 emission 1}} }
#declare Sp=array[3]; #for(i,0,2) #declare Sp[i]=Spruce(i+11); #end
#local n=0; #while(n<2200) #local px=rr(-520,640); #local pz=575+pow(rr(0,1),1.7)*360; #local Nn=<0,0,0>; #local hit=trace(H1,<px,900,pz>,-y,Nn);
 #if(vlength(Nn)>0 & hit.y>LakeY+0.3) #local hh=6+17*pow(rr(0,1),1.3); #local g=rr(.6,1.4);
  object{Sp[mod(n,3)] scale<hh*1.05,hh,hh*1.05> rotate y*rr(0,360) translate hit-y*0.6 texture{pigment{rgb<.022,.034,.016>*g} Amb(.8)} texture{pigment{rgbt<.38*K,.28*K,.28*K,.95>} finish{diffuse 0 emission 1}} no_shadow} #end #local n=n+1; #end
// two far windows on the other shore
#if(Lamps) #for(i,0,3) box{<-0.5,-0.4,0>,<0.5,0.4,0.1> translate<-118+i*3.1+(i>1?34:0),LakeY+3.4+mod(i,2)*.8,556> pigment{rgb<1,.55,.2>*3.4} finish{diffuse 0 emission 1}} #end #end
#end

// ---------------------------------------------------------------- lake
#if(Part=7)
plane{y,LakeY pigment{rgb 1} finish{diffuse 0 emission 60000}}
#end
#if(Part=0|Part=5|Part=8)
plane{y,LakeY texture{ pigment{rgb<.008,.016,.020>}
  normal{ average normal_map{ [1.0 bumps 0.20 scale <1.3,1,0.6> translate <Frame*0.17,0,Frame*0.11>][1 bumps 0.16 scale <.42,1,.22> translate <-Frame*0.13,0,Frame*0.21>][1 bumps 0.12 scale<7,1,3> translate Frame*0.4] } }
  finish{ diffuse 0.5 emission <0.05,0.07,0.11>*0.2*K reflection{0.02,1.0 fresnel on} conserve_energy } } interior{ior 1.33} no_shadow }
#end

// ---------------------------------------------------------------- jetty, lantern, ferry house
#macro DuskWood(g) texture{pigment{average pigment_map{[1 granite color_map{[0 rgb JD*g][1 rgb JL*g]} scale<.5,.05,.05>][1 bozo color_map{[0 rgb JD*g*.7][1 rgb JL*g]} scale<.4,.012,.012>]}} normal{bozo .4 scale <.3,.01,.01>} Amb(.85)} #end
#declare PX=1.15; // the jetty's left edge
#declare LampP=<PX+1.42,1.35,9.6>;
#if(Still & Part!=7)
union{ #local Z=-5; #while(Z<17) #local g=rr(.7,1.2); box{<PX,-0.62,Z>,<PX+1.6,-0.565,Z+0.168> DuskWood(g) translate y*rr(-.010,.010) rotate y*rr(-.25,.25)}
   #for(s,0,1) cylinder{<PX+.10+1.4*s,-.57,Z+.08>,<PX+.10+1.4*s,-.5635,Z+.08>,.011 pigment{rgb .02} Amb(.6)} #end #local Z=Z+0.184; #end
 #local Z=-4; #while(Z<17.5) #for(s,0,1) cylinder{<PX-.02+1.64*s,LakeY-1,Z>,<PX-.02+1.64*s,-0.02+rr(-.1,.14),Z>,.085 DuskWood(rr(.6,1))}
   torus{.088,.012 translate<PX-.02+1.64*s,-.20,Z> pigment{rgb<.30,.24,.14>} Amb(.9)} #end #local Z=Z+3.4; #end
 box{<PX+.05,-.75,-5>,<PX+.15,-.62,17> DuskWood(.6)} box{<PX+1.45,-.75,-5>,<PX+1.55,-.62,17> DuskWood(.6)} }
// lamp post at the jetty's head
cylinder{<LampP.x,-1,LampP.z>,<LampP.x,1.22,LampP.z>,.045 DuskWood(.7)}
cylinder{<LampP.x,1.6,LampP.z>,<LampP.x-.12,1.6,LampP.z>,.012 pigment{rgb .02} Amb(.6)}
union{ cone{<0,.16,0>,.12,<0,.25,0>,.03} cylinder{<0,-.17,0>,<0,-.145,0>,.10} #for(i,0,5) cylinder{<.095,-.15,0>,<.095,.16,0>,.005 rotate y*(60*i+12)} #end pigment{rgb<.06,.045,.03>} finish{diffuse .6 specular .6 roughness .02 emission .02*K} translate LampP no_shadow }
// coil of rope and a crate on the boards
#for(i,0,8) torus{.16-.006*i,.014 translate<PX+.42,-.55+.022*i,1.9> rotate <0,0,0> texture{pigment{rgb<.34,.27,.15>*rr(.7,1.1)} normal{gradient x 1 scale .012} Amb(.9)}} #end
union{ #for(i,0,3) #for(s,0,1) box{<-.26,.02+.095*i,-.19+.37*s>,<.26,.10+.095*i,-.18+.37*s> DuskWood(rr(.7,1.1))} box{<-.26+.51*s,.02+.095*i,-.19>,<-.25+.51*s,.10+.095*i,.19> DuskWood(rr(.7,1.1))} #end #end rotate y*18 translate<PX+1.08,-.565,3.4> }
// bow of a moored rowing boat
union{ difference{ sphere{0,1 scale<.72,.60,2.1>} sphere{0,1 scale<.67,.55,2.02>} box{<-3,0.0,-3>,<3,2,3>} pigment{rgb<.05,.10,.13>} Amb(.9) } torus{1,.035 scale<.715,1,2.08> pigment{rgb<.42,.33,.20>} Amb(.9)}
  box{<-.66,-.12,-.15>,<.66,-.08,.15> DuskWood(1)} box{<-.58,-.12,.95>,<.58,-.08,1.22> DuskWood(1)} cylinder{<-.5,.03,-1.2>,<.3,.06,1.3>,.022 DuskWood(1.2)} cylinder{<.45,.03,-1.0>,<-.25,.07,1.25>,.022 DuskWood(1.2)}
  rotate z*3 rotate y*14 translate<PX-.95,LakeY+.36,4.9> }
sphere_sweep{cubic_spline 6 <PX-.5,LakeY+.5,7>,.012 <PX-.72,LakeY+.40,6.7>,.012 <PX-.45,LakeY+.22,6.75>,.012 <PX-.2,-.52,6.4>,.012 <PX-.03,-.22,6.2>,.012 <PX+.1,-.2,6.1>,.012 pigment{rgb<.34,.27,.15>} Amb(.9)}
// the ferry house, right: boarded gable with two lit windows and a lit door
#macro Pane(W,H) union{ box{<-W/2,-H/2,-.02>,<W/2,H/2,.0> #if(Lamps) pigment{ gradient y color_map{[0 rgb<1,.50,.17>*3.2][.5 rgb<1,.56,.22>*7][1 rgb<1,.50,.17>*3.6]} translate -.5 scale H} finish{diffuse 0 emission 1} #else pigment{rgb .01} finish{diffuse .3 reflection .10*K} #end}
   #for(i,0,2) box{<-W/2+W*i/2-.022,-H/2-.03,-.05>,<-W/2+W*i/2+.022,H/2+.03,.03> pigment{rgb<.22,.21,.18>} Amb(.9)} box{<-W/2-.03,-H/2+H*i/2-.022,-.05>,<W/2+.03,-H/2+H*i/2+.022,.03> pigment{rgb<.22,.21,.18>} Amb(.9)} #end } #end
union{
 #local i=0; #while(i<40) #local x0=-2.6+i*.13; #local top=2.7+1.75*(1-abs(x0+.06)/2.66); box{<x0,-.8,0>,<x0+.124,top,.05> pigment{granite color_map{[0 rgb<.05,.034,.022>*rr(.7,1.2)][1 rgb<.15,.105,.068>*rr(.7,1.2)]} scale<.08,.9,.08>} Amb(.9) translate z*rr(-.008,.008)} #local i=i+1; #end
 #for(s,-1,1,2) box{<-.06,-.09,-.35>,<3.3,.09,5> rotate z*-33 scale<s,1,1> translate y*4.5 pigment{granite color_map{[0 rgb<.022,.022,.026>][1 rgb<.07,.066,.066>]} scale .4} Amb(.9)} #end
 #local i=0; #while(i<30) #local z0=.03+i*.2; box{<-2.62,-.8,z0>,<-2.55,2.75,z0+.19> pigment{granite color_map{[0 rgb<.05,.034,.022>*rr(.7,1.2)][1 rgb<.15,.105,.068>*rr(.7,1.2)]} scale<.08,.9,.08>} Amb(.9) translate x*rr(-.008,.008)} #local i=i+1; #end
 object{Pane(.8,.8) rotate y*90 translate<-2.64,1.35,2.2>} box{<-2.75,.80,1.7>,<-2.6,.87,2.7> DuskWood(.9)}
 box{<-2.58,-2.4,.04>,<2.55,-.8,6> pigment{granite color_map{[0 rgb<.035,.034,.032>][.5 rgb<.10,.095,.088>][1 rgb<.17,.16,.15>]} scale .35} normal{granite .8 scale .2} Amb(.9)}
 // a bench and a barrel against the wall
 box{<-2.4,-.20,-.42>,<-.4,-.15,-.08> DuskWood(1)} box{<-2.3,-.6,-.4>,<-2.22,-.2,-.1> DuskWood(.8)} box{<-.6,-.6,-.4>,<-.52,-.2,-.1> DuskWood(.8)}
 cylinder{<2.15,-.62,-.45>,<2.15,.18,-.45>,.30 texture{pigment{radial color_map{[0 rgb<.05,.03,.02>][.08 rgb<.05,.03,.02>][.09 rgb<.17,.11,.06>][1 rgb<.12,.08,.045>]} frequency 16 translate<2.15,0,-.45>} Amb(.9)}}
 #for(i,0,2) torus{.302,.012 translate<2.15,-.5+.28*i,-.45> pigment{rgb .05} Amb(.7)} #end
 object{Pane(.95,1.05) translate<-1.35,1.35,0>} object{Pane(.62,.62) translate<0,3.15,0>}
 box{<.75,-.55,-.03>,<1.70,1.75,.02> pigment{rgb<.05,.085,.09>} Amb(.9)} object{Pane(.5,.55) translate<1.22,1.25,-.03>}
 box{<-2.8,-.80,-1.1>,<2.8,-.62,.1> DuskWood(.9)}
 rotate y*-22 translate<6.55,0.1,7.2> }
// bank of earth and stones on the right and in front
#declare Bank=function(x,y){ min(1,max(0,.30+.75*x*x+.20*f_noise3d(x*9,y*9,3)+.07*f_noise3d(x*34,y*34,8)-.50*y*(1-.7*x)))}
height_field{ function 300,300 { Bank(x,1-y) } smooth scale<11,1.7,26> translate<PX+1.9,LakeY-.55,-7> pigment{granite color_map{[0 rgb<.03,.032,.015>][.6 rgb<.07,.075,.03>][1 rgb<.13,.11,.07>]} scale .5} normal{granite .7 scale .2} Amb(.85) }
#local n=0; #while(n<70) #local s=rr(.05,.26); sphere{0,1 scale<s*rr(.8,1.4),s*.6,s> rotate y*rr(0,180) translate<PX-.9-rr(0,1)*rr(0,3.2),LakeY-.02,-4.2+rr(0,3.4)> pigment{granite color_map{[0 rgb<.05,.048,.045>][1 rgb<.19,.18,.165>]} scale .2} normal{granite .5 scale .1} Amb(.9)} #local n=n+1; #end
#end

#if(Lamps)
light_source{LampP rgb <1,.52,.19>*1.9 fade_distance 1 fade_power 2 area_light x*.08,y*.08,3,3 adaptive 1 circular orient}
sphere{0,1 scale<.035,.075,.035> translate LampP pigment{rgb<1,.58,.22>*300} finish{diffuse 0 emission 1} no_shadow}
difference{cylinder{LampP-y*.145,LampP+y*.155,.088} cylinder{LampP-y*.15,LampP+y*.16,.085} pigment{rgb<1,.55,.2>*.9 transmit .90} finish{diffuse 0 emission .5} no_shadow}
light_source{<5.2,1.35,5.6> rgb <1,.54,.21>*0.75 spotlight point_at<3.6,-.8,3.2> radius 10 falloff 65 fade_distance 1 fade_power 2 area_light x*.6,y*.6,3,3}
light_source{<7.7,1.35,6.1> rgb <1,.54,.21>*0.5 spotlight point_at<6.9,-.8,3.8> radius 10 falloff 65 fade_distance 1 fade_power 2 area_light x*.4,y*.4,3,3}
#end

// ---------------------------------------------------------------- what moves
#if(Part=1) object{Person(<.16,.05,.045>,<.045,.05,.075>,<.06,.035,.02>,Frame*1.05,<.20,.17,.10>) rotate y*150 translate<PX+.75,-.565,12.5>} #end
#if(Part=3)
union{ object{Sail(<.12,1.15,0>,<.12,9.1,0>,<3.7,1.3,.5>,.55)} object{Sail(<-2.5,.9,.1>,<-.1,7.3,0>,<-.25,1.2,.35>,.35)}
 cylinder{<0,0,0>,<0,9.6,0>,.06 pigment{rgb<.1,.07,.04>}} cylinder{<0,1.15,0>,<3.75,1.28,.5>,.05 pigment{rgb<.1,.07,.04>}}
 intersection{ sphere{0,1 scale<3.7,1.0,.95> translate<.4,.25,0>} plane{y,.42} plane{-y,.25} pigment{rgb<.04,.05,.06>} }
 rotate x*(3+2*sin(Frame*1.3)) translate <2,LakeY+.2,120>}
#end
#if(Part=4)
#declare R=seed(515);
union{ #local n=0; #while(n<430) #local left=(n<300); #local px=(left?-5.6+pow(rr(0,1),.8)*3.4:-1.9+rr(0,1)*1.6); #local pz=(left?-3.0+rr(0,1)*6.5:4.5+rr(0,1)*5); #local h=rr(.9,1.9); #local b=rr(-.22,.22); #local sw=.10*sin(n*.9+Frame*1.9)+.05*Frame*.3;
  sphere_sweep{cubic_spline 6 <0,-.3,0>,.009 <0,0,0>,.009 <(b+sw*.3)*.15,h*.4,0>,.008 <(b+sw*.7)*.5,h*.75,.05>,.006 <(b+sw)*1.1,h,.12>,.002 <(b+sw)*1.5,h*1.1,.2>,.001 translate<px,LakeY,pz> pigment{rgb<.10,.10,.035>*rr(.5,1.2)} Amb(.9)}
  #if(rr(0,1)<.3) cylinder{<(b+sw)*.85,h*.86,.09>,<(b+sw)*1.08,h*1.02,.12>,.013 translate<px,LakeY,pz> pigment{rgb<.07,.04,.02>} Amb(.9)} #end
  #local n=n+1; #end }
#end
